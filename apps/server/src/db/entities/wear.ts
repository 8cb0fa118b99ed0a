import type { RuleInForce } from '@evenround/contract/wear'
import type { Medium } from '@evenround/core/catalogue'
import { DUE_RULE_FIELDS, type RuleLevel, USE_FIELDS, type USE_LEVELS } from '@evenround/core/firm'
import type { Cause, Due, WearSchool } from '@evenround/core/wear'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { keeping } from '../columns'
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
  survival: number[]
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
  /** The rule of the day to change that was in force, and all that came of it on the day it was worked out. */
  @Column({ type: 'jsonb' })
  rule: RuleInForce
  @Column({ type: 'jsonb' })
  due: Due
  /** From these days on it is spent, and its own readings make it due before its rule. */
  @Column({ type: 'date' })
  spentOn: string
  @Column({ type: 'date', nullable: true })
  turnsOn: string | null
  @Column({ type: 'text', nullable: true })
  advice: Due['advice']
  @Column({ type: 'timestamptz' })
  computedAt: Date
}

/** By which rule parts are changed at a level: of the firm, of a medium, of a site, a system or a stage. */
@Entity({ name: 'due_rule' })
export class DueRuleRow extends keeping(FirmRow, DUE_RULE_FIELDS) {
  @PrimaryColumn({ type: 'text' })
  level: RuleLevel
  /** An id, a medium, or `firm`. */
  @PrimaryColumn({ type: 'text' })
  about: string
}

/** How much is drawn, as somebody said it. */
@Entity({ name: 'stated_use' })
export class StatedUseRow extends keeping(FirmRow, USE_FIELDS) {
  @PrimaryColumn({ type: 'text' })
  level: (typeof USE_LEVELS)[number]
  @PrimaryColumn({ type: 'text' })
  about: string
}

/** A stage whose forecast has to be recomputed. */
@Entity({ name: 'stale_stage' })
export class StaleStage extends FirmRow {
  @PrimaryColumn({ type: 'uuid' })
  stageId: string
  @Column({ type: 'timestamptz' })
  markedAt: Date
}
