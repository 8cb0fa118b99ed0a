import type { RecordOf } from '../records'
import type { FACT_BASE, FACT_KINDS } from './kinds'

export type FactKind = keyof typeof FACT_KINDS
export type FactBase = RecordOf<typeof FACT_BASE>
/** The fields a kind has beside those that all facts share. */
export type OwnFields<K extends FactKind> = RecordOf<(typeof FACT_KINDS)[K]>
export type FactOf<K extends FactKind> = FactBase & { kind: K } & OwnFields<K>
/** What a fact of some kind says, without what every fact carries. */
export type OwnFact = { [K in FactKind]: { kind: K } & OwnFields<K> }[FactKind]
export type Fact = { [K in FactKind]: FactOf<K> }[FactKind]

export type VisitBegun = FactOf<'visit-begun'>
export type TdsReading = FactOf<'tds-reading'>
export type StageReading = FactOf<'stage-reading'>
export type StepDone = FactOf<'step-done'>
export type BlockDone = FactOf<'block-done'>
export type WorkChanged = FactOf<'work-changed'>
export type StepSurprise = FactOf<'step-surprise'>
export type TimerStarted = FactOf<'timer-started'>
export type PartRemoved = FactOf<'part-removed'>
export type PartFitted = FactOf<'part-fitted'>
export type HoldBegun = FactOf<'hold-begun'>
export type HoldLifted = FactOf<'hold-lifted'>
export type HoldTold = FactOf<'hold-told'>
export type VisitFinished = FactOf<'visit-finished'>
export type FaultNoted = FactOf<'fault-noted'>
export type SiteMended = FactOf<'site-mended'>
export type JobPlanned = FactOf<'job-planned'>
export type ChlorineDosed = FactOf<'chlorine-dosed'>
export type StripRead = FactOf<'strip-read'>
export type SampleTaken = FactOf<'sample-taken'>
export type SampleResult = FactOf<'sample-result'>
export type JobDayEnded = FactOf<'job-day-ended'>

export type Rated = PartFitted['rated']
export type VisitOutcome = VisitFinished['outcome']
/** How a step came out, as it is recorded with its tick. */
export type StepResult = Pick<StepDone, 'outcome' | 'choice' | 'note'>
