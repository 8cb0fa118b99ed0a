export { effectiveFacts } from './effective'
export { HOLD_ORDER, SAFETY_HOLDS, strictestHold } from './holds'
export { markText } from './mark'
export { readingKey, remainingSeconds, type VisitState, visitState } from './state'
export type {
  ChlorineDosed,
  Fact,
  FactBase,
  FactKind,
  HoldBegun,
  HoldLifted,
  JobDayEnded,
  JobPlanned,
  PartFitted,
  PartRemoved,
  Rated,
  SampleResult,
  SampleTaken,
  StageReading,
  StepDone,
  StepSurprise,
  StripRead,
  TdsReading,
  TimerStarted,
  VisitBegun,
  VisitFinished,
  VisitOutcome,
} from './types'
