import type { JobPlan } from '../disinfection/job/types'
import type { Action, HoldKind } from '../train/types'
import type { FoundGrade } from '../wear/types'

/** What every fact of field work carries. Facts are never changed: a correction is a new fact that supersedes one. */
export interface FactBase {
  /** UUIDv7 made by the device. */
  id: string
  /** Instant it happened, by the device, ISO UTC. */
  at: string
  /** The device's own order, rising. */
  seq: number
  siteId: string
  visitId: string
  /** The fact of the same kind that this one corrects. */
  supersedes: string | null
  /** True when it only takes the superseded one back. */
  voided: boolean
}

export interface Rated {
  days: number | null
  litres: number | null
  milliequivalents: number | null
  hours: number | null
}

export type VisitOutcome = 'done' | 'partly-done' | 'nobody-home' | 'part-missing'

export interface VisitBegun extends FactBase {
  kind: 'visit-begun'
  stopId: string | null
  systemId: string
  trainVersion: number
  engineVersion: number
  tasks: { stage: string; action: Action }[]
}
export interface TdsReading extends FactBase {
  kind: 'tds-reading'
  systemId: string
  phase: 'before' | 'after'
  water: 'untreated' | 'treated'
  display: number
  multiplier: 1 | 10
  quantity: 'tds' | 'ec'
  scale: 0.5 | 0.64 | 0.7
  compensated: boolean
  temperatureC: number | null
  settled: boolean
  /** The technician was asked about a doubtful value and kept it. */
  keptDespiteDoubt: boolean
}
/** What is read of one stage at a visit, or (without a stage) of the whole system: each value null where it was not read. */
export interface StageReading extends FactBase {
  kind: 'stage-reading'
  systemId: string
  stageId: string | null
  phase: 'before' | 'after'
  /** As the counter shows it; what that means across roll-overs is worked out where it is used. */
  counterL: number | null
  /** The counter was replaced or set to nothing since it was last read. */
  counterStartedOver: boolean
  inKpa: number | null
  outKpa: number | null
  flowLMin: number | null
  /** Flow at the same tap when the element was clean. */
  cleanFlowLMin: number | null
  chlorineAfterMgL: number | null
  lampHours: number | null
  intensityPercent: number | null
  /** Permeate, by jug and watch. */
  productLMin: number | null
  waterC: number | null
}
export interface StepDone extends FactBase {
  kind: 'step-done'
  stepKey: string
  answer: string | null
}
/** Something turned out otherwise than the sheet expected: what follows is worked out anew from there. */
export interface StepSurprise extends FactBase {
  kind: 'step-surprise'
  stepKey: string
  /** A surprise, with the stage it is about where that matters: `still-leaking:ID`. */
  answer: string
}
export interface TimerStarted extends FactBase {
  kind: 'timer-started'
  stepKey: string
  seconds: number
}
export interface PartRemoved extends FactBase {
  kind: 'part-removed'
  stageId: string
  found: FoundGrade
  /** Dirt had got past it; null where that cannot be seen. */
  dirtPast: boolean | null
}
export interface PartFitted extends FactBase {
  kind: 'part-fitted'
  stageId: string
  partId: string | null
  partNumber: string
  position: number
  markText: string
  /** False where nobody knows when it went in: `at` is then the day it was first seen. */
  dateKnown: boolean
  /** What the part was rated at when it went in; a later change of the catalogue leaves it alone. */
  rated: Rated
}
export interface HoldBegun extends FactBase {
  kind: 'hold-begun'
  holdKind: HoldKind
  /** Instant it ends by itself; null for those that only a proof lifts. */
  until: string | null
  text: string
}
/** A hold that is over: the customer was told, or (safety holds) a proof is there. */
export interface HoldLifted extends FactBase {
  kind: 'hold-lifted'
  holdId: string
  /** What it rests on: a strip, a result, or that its time is over. */
  proof: string
}
export interface VisitFinished extends FactBase {
  kind: 'visit-finished'
  outcome: VisitOutcome
  /** Null when there is no monitor. */
  monitorReset: boolean | null
  customerTold: boolean
  note: string
}

/** A disinfection as it is planned. Its facts share one `visitId`, the job's, over all its days. */
export interface JobPlanned extends FactBase {
  kind: 'job-planned'
  plan: JobPlan
}
export interface ChlorineDosed extends FactBase {
  kind: 'chlorine-dosed'
  /** The step it belongs to, or `redose`. */
  stepKey: string
  amount: number
  unit: 'mL' | 'g'
}
export interface StripRead extends FactBase {
  kind: 'strip-read'
  /** An outlet's id, or `entry`, `jug`. */
  place: string
  purpose: 'jug' | 'arrival' | 'contact' | 'flush' | 'sample'
  /** A nose alone confirms nothing. */
  method: 'strip' | 'smell'
  range: 'low' | 'high'
  /** Free chlorine of the water itself, mg/L: what the strip showed times its dilution; null for a smell. */
  mgL: number | null
  dilution: number
}
export interface SampleTaken extends FactBase {
  kind: 'sample-taken'
  bottle: string
  laboratory: string
  place: string
  /** A bottle with its own dechlorinating salt. */
  dechlorinating: boolean
  chlorineMgL: number
}
export interface SampleResult extends FactBase {
  kind: 'sample-result'
  sampleId: string
  totalColiform: 'absent' | 'present'
  eColi: 'absent' | 'present'
  others: { name: string; value: string }[]
  reportNumber: string
  /** Day of the report, ISO. */
  day: string
}
/** A day of a job is over: what follows is worked out from it. */
export interface JobDayEnded extends FactBase {
  kind: 'job-day-ended'
  day: 'dose' | 'flush' | 'sample' | 'job'
  outcome: 'done' | 'nobody-home' | 'stopped'
  note: string
}

export type Fact =
  | VisitBegun
  | TdsReading
  | StageReading
  | StepDone
  | StepSurprise
  | TimerStarted
  | PartRemoved
  | PartFitted
  | HoldBegun
  | HoldLifted
  | VisitFinished
  | JobPlanned
  | ChlorineDosed
  | StripRead
  | SampleTaken
  | SampleResult
  | JobDayEnded
export type FactKind = Fact['kind']
