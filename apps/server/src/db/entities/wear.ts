import type { Medium } from '@evenround/core/catalogue'
import type { Cause, WearSchool } from '@evenround/core/wear'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { FirmRow, FirmThing } from './master'

/** Weeks in which a place is closed or fuller than usual. */
@Entity({ name: 'occupancy' })
export class Occupancy extends FirmThing {
  @Column({ type: 'uuid' })
  siteId: string
  @Column({ type: 'date' })
  fromDay: string
  @Column({ type: 'date' })
  toDay: string
  @Column({ type: 'double precision' })
  share: number
}

/** What is believed of a stage, made from facts and thrown away at will. */
@Entity({ name: 'stage_forecast' })
export class StageForecast extends FirmRow {
  @PrimaryColumn({ type: 'uuid' })
  stageId: string
  @Column({ type: 'uuid' })
  systemId: string
  @Column({ type: 'uuid' })
  siteId: string
  @Column({ type: 'text' })
  media: Medium
  @Column({ type: 'text' })
  partNumber: string
  @Column({ type: 'date' })
  fittedOn: string
  @Column({ type: 'boolean' })
  fittedKnown: boolean
  @Column({ type: 'real', array: true })
  days: number[]
  @Column({ type: 'real', array: true })
  alive: number[]
  @Column({ type: 'date' })
  dueOn: string
  @Column({ type: 'date' })
  windowFrom: string
  @Column({ type: 'date' })
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
  @Column({ type: 'timestamptz' })
  computedAt: Date
}

/** A stage whose forecast has to be made anew. */
@Entity({ name: 'stale_stage' })
export class StaleStage extends FirmRow {
  @PrimaryColumn({ type: 'uuid' })
  stageId: string
  @Column({ type: 'timestamptz' })
  markedAt: Date
}
