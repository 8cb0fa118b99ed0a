export { effectiveFacts } from './effective'
export { HOLD_ORDER, SAFETY_HOLDS, strictestHold } from './holds'
export { markText } from './mark'
export { remainingSeconds, type VisitState, visitState } from './state'
export type {
  Fact,
  FactBase,
  FactKind,
  HoldBegun,
  PartFitted,
  PartRemoved,
  Rated,
  StepDone,
  TdsReading,
  TimerStarted,
  VisitBegun,
  VisitFinished,
  VisitOutcome,
} from './types'
