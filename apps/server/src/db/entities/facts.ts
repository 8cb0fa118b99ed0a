import type { JobPlan } from '@evenround/core/disinfection'
import type { Action, HoldKind } from '@evenround/core/train'
import type { FactKind, VisitOutcome } from '@evenround/core/visit'
import type { FoundGrade } from '@evenround/core/wear'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { FirmThing } from './master'

/** What all append-only fact tables share; they are partitioned by month of `at`. */
export abstract class FactRow extends FirmThing {
  /** When it happened, by the device. */
  @PrimaryColumn({ type: 'timestamptz' })
  at: Date
  @Column({ name: 'arrived_at', type: 'timestamptz' })
  arrivedAt: Date
  @Column({ name: 'person_id', type: 'uuid' })
  personId: string
  @Column({ name: 'device_id', type: 'uuid' })
  deviceId: string
  @Column({ type: 'bigint', transformer: { to: (value: number) => value, from: Number } })
  seq: number
  @Column({ name: 'site_id', type: 'uuid' })
  siteId: string
  @Column({ name: 'visit_id', type: 'uuid' })
  visitId: string
  @Column({ type: 'uuid', nullable: true })
  supersedes: string | null
  @Column({ type: 'boolean' })
  voided: boolean
  @Column({ type: 'text', array: true })
  flags: string[]
}

@Entity({ name: 'fact_visit_begun' })
export class FactVisitBegun extends FactRow {
  @Column({ name: 'stop_id', type: 'uuid', nullable: true })
  stopId: string | null
  @Column({ name: 'system_id', type: 'uuid' })
  systemId: string
  @Column({ name: 'train_version', type: 'int' })
  trainVersion: number
  @Column({ name: 'engine_version', type: 'int' })
  engineVersion: number
  @Column({ type: 'jsonb' })
  tasks: { stage: string; action: Action }[]
}

@Entity({ name: 'fact_tds_reading' })
export class FactTdsReading extends FactRow {
  @Column({ name: 'system_id', type: 'uuid' })
  systemId: string
  @Column({ type: 'text' })
  phase: 'before' | 'after'
  @Column({ type: 'text' })
  water: 'untreated' | 'treated'
  @Column({ type: 'double precision' })
  display: number
  @Column({ type: 'int' })
  multiplier: 1 | 10
  @Column({ type: 'text' })
  quantity: 'tds' | 'ec'
  @Column({ type: 'double precision' })
  scale: 0.5 | 0.64 | 0.7
  @Column({ type: 'boolean' })
  compensated: boolean
  @Column({ name: 'temperature_c', type: 'double precision', nullable: true })
  temperatureC: number | null
  @Column({ type: 'boolean' })
  settled: boolean
  @Column({ name: 'kept_despite_doubt', type: 'boolean' })
  keptDespiteDoubt: boolean
  /** Worked out from the display when it arrived: TDS at 25 °C, mg/L. */
  @Column({ name: 'tds_mg_l', type: 'double precision' })
  tdsMgL: number
}

@Entity({ name: 'fact_stage_reading' })
export class FactStageReading extends FactRow {
  @Column({ name: 'system_id', type: 'uuid' })
  systemId: string
  @Column({ name: 'stage_id', type: 'uuid', nullable: true })
  stageId: string | null
  @Column({ type: 'text' })
  phase: 'before' | 'after'
  @Column({ name: 'counter_l', type: 'double precision', nullable: true })
  counterL: number | null
  @Column({ name: 'counter_started_over', type: 'boolean' })
  counterStartedOver: boolean
  @Column({ name: 'in_kpa', type: 'double precision', nullable: true })
  inKpa: number | null
  @Column({ name: 'out_kpa', type: 'double precision', nullable: true })
  outKpa: number | null
  @Column({ name: 'flow_l_min', type: 'double precision', nullable: true })
  flowLMin: number | null
  @Column({ name: 'clean_flow_l_min', type: 'double precision', nullable: true })
  cleanFlowLMin: number | null
  @Column({ name: 'chlorine_after_mg_l', type: 'double precision', nullable: true })
  chlorineAfterMgL: number | null
  @Column({ name: 'lamp_hours', type: 'double precision', nullable: true })
  lampHours: number | null
  @Column({ name: 'intensity_percent', type: 'double precision', nullable: true })
  intensityPercent: number | null
  @Column({ name: 'product_l_min', type: 'double precision', nullable: true })
  productLMin: number | null
  @Column({ name: 'water_c', type: 'double precision', nullable: true })
  waterC: number | null
}

@Entity({ name: 'fact_step_done' })
export class FactStepDone extends FactRow {
  @Column({ name: 'step_key', type: 'text' })
  stepKey: string
  @Column({ type: 'text', nullable: true })
  answer: string | null
}

@Entity({ name: 'fact_step_surprise' })
export class FactStepSurprise extends FactRow {
  @Column({ name: 'step_key', type: 'text' })
  stepKey: string
  @Column({ type: 'text' })
  answer: string
}

@Entity({ name: 'fact_timer_started' })
export class FactTimerStarted extends FactRow {
  @Column({ name: 'step_key', type: 'text' })
  stepKey: string
  @Column({ type: 'int' })
  seconds: number
}

@Entity({ name: 'fact_part_removed' })
export class FactPartRemoved extends FactRow {
  @Column({ name: 'stage_id', type: 'uuid' })
  stageId: string
  @Column({ type: 'text' })
  found: FoundGrade
  @Column({ name: 'dirt_past', type: 'boolean', nullable: true })
  dirtPast: boolean | null
}

@Entity({ name: 'fact_part_fitted' })
export class FactPartFitted extends FactRow {
  @Column({ name: 'stage_id', type: 'uuid' })
  stageId: string
  @Column({ name: 'part_id', type: 'uuid', nullable: true })
  partId: string | null
  @Column({ name: 'part_number', type: 'text' })
  partNumber: string
  @Column({ type: 'int' })
  position: number
  @Column({ name: 'mark_text', type: 'text' })
  markText: string
  @Column({ name: 'date_known', type: 'boolean' })
  dateKnown: boolean
  @Column({ name: 'rated_days', type: 'double precision', nullable: true })
  ratedDays: number | null
  @Column({ name: 'rated_litres', type: 'double precision', nullable: true })
  ratedLitres: number | null
  @Column({ name: 'rated_milliequivalents', type: 'double precision', nullable: true })
  ratedMilliequivalents: number | null
  @Column({ name: 'rated_hours', type: 'double precision', nullable: true })
  ratedHours: number | null
}

@Entity({ name: 'fact_hold_begun' })
export class FactHoldBegun extends FactRow {
  @Column({ name: 'hold_kind', type: 'text' })
  holdKind: HoldKind
  @Column({ type: 'timestamptz', nullable: true })
  until: Date | null
  @Column({ type: 'text' })
  text: string
}

@Entity({ name: 'fact_hold_lifted' })
export class FactHoldLifted extends FactRow {
  @Column({ name: 'hold_id', type: 'uuid' })
  holdId: string
  @Column({ type: 'text' })
  proof: string
}

@Entity({ name: 'fact_visit_finished' })
export class FactVisitFinished extends FactRow {
  @Column({ type: 'text' })
  outcome: VisitOutcome
  @Column({ name: 'monitor_reset', type: 'boolean', nullable: true })
  monitorReset: boolean | null
  @Column({ name: 'customer_told', type: 'boolean' })
  customerTold: boolean
  @Column({ type: 'text' })
  note: string
}

@Entity({ name: 'fact_job_planned' })
export class FactJobPlanned extends FactRow {
  @Column({ type: 'jsonb' })
  plan: JobPlan
}

@Entity({ name: 'fact_chlorine_dosed' })
export class FactChlorineDosed extends FactRow {
  @Column({ name: 'step_key', type: 'text' })
  stepKey: string
  @Column({ type: 'double precision' })
  amount: number
  @Column({ type: 'text' })
  unit: 'mL' | 'g'
}

@Entity({ name: 'fact_strip_read' })
export class FactStripRead extends FactRow {
  @Column({ type: 'text' })
  place: string
  @Column({ type: 'text' })
  purpose: 'jug' | 'arrival' | 'contact' | 'flush' | 'sample'
  @Column({ type: 'text' })
  method: 'strip' | 'smell'
  @Column({ name: 'scale_range', type: 'text' })
  range: 'low' | 'high'
  @Column({ name: 'mg_l', type: 'double precision', nullable: true })
  mgL: number | null
  @Column({ type: 'double precision' })
  dilution: number
}

@Entity({ name: 'fact_sample_taken' })
export class FactSampleTaken extends FactRow {
  @Column({ type: 'text' })
  bottle: string
  @Column({ type: 'text' })
  laboratory: string
  @Column({ type: 'text' })
  place: string
  @Column({ type: 'boolean' })
  dechlorinating: boolean
  @Column({ name: 'chlorine_mg_l', type: 'double precision' })
  chlorineMgL: number
}

@Entity({ name: 'fact_sample_result' })
export class FactSampleResult extends FactRow {
  @Column({ name: 'sample_id', type: 'uuid' })
  sampleId: string
  @Column({ name: 'total_coliform', type: 'text' })
  totalColiform: 'absent' | 'present'
  @Column({ name: 'e_coli', type: 'text' })
  eColi: 'absent' | 'present'
  @Column({ type: 'jsonb' })
  others: { name: string; value: string }[]
  @Column({ name: 'report_number', type: 'text' })
  reportNumber: string
  /** Day of the report. */
  @Column({ name: 'report_day', type: 'text' })
  day: string
}

@Entity({ name: 'fact_job_day_ended' })
export class FactJobDayEnded extends FactRow {
  @Column({ name: 'job_day', type: 'text' })
  day: 'dose' | 'flush' | 'sample' | 'job'
  @Column({ type: 'text' })
  outcome: 'done' | 'nobody-home' | 'stopped'
  @Column({ type: 'text' })
  note: string
}

/** Keeps a fact's id unique over all its partitions, and what was sent under it. */
@Entity({ name: 'fact_receipt' })
export class FactReceipt extends FirmThing {
  @Column({ type: 'text' })
  kind: FactKind
  @Column({ name: 'device_id', type: 'uuid' })
  deviceId: string
  @Column({ name: 'person_id', type: 'uuid' })
  personId: string
  @Column({ name: 'visit_id', type: 'uuid' })
  visitId: string
  @Column({ name: 'arrived_at', type: 'timestamptz' })
  arrivedAt: Date
  @Column({ name: 'body_hash', type: 'text' })
  bodyHash: string
  @Column({ type: 'text', array: true })
  flags: string[]
}

export const FACT_TABLES = {
  'visit-begun': FactVisitBegun,
  'tds-reading': FactTdsReading,
  'stage-reading': FactStageReading,
  'step-done': FactStepDone,
  'step-surprise': FactStepSurprise,
  'timer-started': FactTimerStarted,
  'part-removed': FactPartRemoved,
  'part-fitted': FactPartFitted,
  'hold-begun': FactHoldBegun,
  'hold-lifted': FactHoldLifted,
  'visit-finished': FactVisitFinished,
  'job-planned': FactJobPlanned,
  'chlorine-dosed': FactChlorineDosed,
  'strip-read': FactStripRead,
  'sample-taken': FactSampleTaken,
  'sample-result': FactSampleResult,
  'job-day-ended': FactJobDayEnded,
} as const satisfies Record<FactKind, new () => FactRow>
