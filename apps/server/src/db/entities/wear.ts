import type { Medium } from '@evenround/core/catalogue'
import type { Cause, WearSchool } from '@evenround/core/wear'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { FirmRow, FirmThing } from './master'

/** Weeks in which a place is closed or fuller than usual. */
@Entity({ name: 'occupancy' })
export class Occupancy extends FirmThing {
  @Column({ name: 'site_id', type: 'uuid' })
  siteId: string
  @Column({ name: 'from_day', type: 'date' })
  fromDay: string
  @Column({ name: 'to_day', type: 'date' })
  toDay: string
  @Column({ type: 'double precision' })
  share: number
}

/** What is believed of a stage, made from facts and thrown away at will. */
@Entity({ name: 'stage_forecast' })
export class StageForecast extends FirmRow {
  @PrimaryColumn({ name: 'stage_id', type: 'uuid' })
  stageId: string
  @Column({ name: 'system_id', type: 'uuid' })
  systemId: string
  @Column({ name: 'site_id', type: 'uuid' })
  siteId: string
  @Column({ type: 'text' })
  media: Medium
  @Column({ name: 'part_number', type: 'text' })
  partNumber: string
  @Column({ name: 'fitted_on', type: 'date' })
  fittedOn: string
  @Column({ name: 'fitted_known', type: 'boolean' })
  fittedKnown: boolean
  @Column({ type: 'real', array: true })
  days: number[]
  @Column({ type: 'real', array: true })
  alive: number[]
  @Column({ name: 'due_on', type: 'date' })
  dueOn: string
  @Column({ name: 'window_from', type: 'date' })
  windowFrom: string
  @Column({ name: 'window_to', type: 'date' })
  windowTo: string
  /** Days by which one part in ten, in two and nine in ten are done, nothing assumed of today. */
  @Column({ type: 'date' })
  p10: string
  @Column({ type: 'date' })
  p50: string
  @Column({ type: 'date' })
  p90: string
  @Column({ type: 'text' })
  governing: Cause
  @Column({ type: 'text' })
  school: WearSchool
  @Column({ name: 'computed_at', type: 'timestamptz' })
  computedAt: Date
}

/** A stage whose forecast has to be made anew. */
@Entity({ name: 'stale_stage' })
export class StaleStage extends FirmRow {
  @PrimaryColumn({ name: 'stage_id', type: 'uuid' })
  stageId: string
  @Column({ name: 'marked_at', type: 'timestamptz' })
  markedAt: Date
}
