export { type AfterDoubt, type AfterInput, type AfterLook, afterDoubts } from './after'
export { effectiveFacts } from './effective'
export { HOLD_ORDER, SAFETY_HOLDS, strictestHold } from './holds'
export { type BlockStep, FACT_BASE, FACT_KINDS } from './kinds'
export { markText } from './mark'
export { NOTHING_READ } from './nothing-read'
export { readingKey, remainingSeconds, type VisitState, visitState } from './state'
export { chose, done, early, leftOut, resultWords } from './step-result'
export type {
  BlockDone,
  ChlorineDosed,
  Fact,
  FactBase,
  FactKind,
  FactOf,
  FaultNoted,
  HoldBegun,
  HoldLifted,
  HoldTold,
  JobDayEnded,
  JobPlanned,
  OwnFact,
  OwnFields,
  PartFitted,
  PartRemoved,
  Rated,
  SampleResult,
  SampleTaken,
  SiteMended,
  StageReading,
  StepDone,
  StepResult,
  StepSurprise,
  StripRead,
  TdsReading,
  TimerStarted,
  VisitBegun,
  VisitFinished,
  VisitOutcome,
  WorkChanged,
} from './types'
export { stepOfKey, upgradeFact } from './upgrade'
export { type Work, workOf } from './work'
