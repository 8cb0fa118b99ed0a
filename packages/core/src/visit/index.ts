export { effectiveFacts } from './effective'
export { HOLD_ORDER, SAFETY_HOLDS, strictestHold } from './holds'
export { markText } from './mark'
export { readingKey, remainingSeconds, type VisitState, visitState } from './state'
export type {
  Fact,
  FactBase,
  FactKind,
  HoldBegun,
  HoldLifted,
  PartFitted,
  PartRemoved,
  Rated,
  StageReading,
  StepDone,
  StepSurprise,
  TdsReading,
  TimerStarted,
  VisitBegun,
  VisitFinished,
  VisitOutcome,
} from './types'
