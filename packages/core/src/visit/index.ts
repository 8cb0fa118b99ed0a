export { effectiveFacts } from './effective'
export { HOLD_ORDER, SAFETY_HOLDS, strictestHold } from './holds'
export { markText } from './mark'
export { readingKey, remainingSeconds, type VisitState, visitState } from './state'
export type {
  Fact,
  FactBase,
  FactKind,
  HoldBegun,
  PartFitted,
  PartRemoved,
  Rated,
  StageReading,
  StepDone,
  TdsReading,
  TimerStarted,
  VisitBegun,
  VisitFinished,
  VisitOutcome,
} from './types'
