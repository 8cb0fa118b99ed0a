import type { CrossingDto } from '@evenround/contract/crossing'
import type { MARK_KINDS, RoundSet, RUN_STATES, SetPlan } from '@evenround/contract/rounds'
import type { RoundChange } from '@evenround/contract/site'
import type { Action } from '@evenround/core/train'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { FirmRow, FirmThing, VersionedThing } from './master'

/** Somewhere a van can drive to. */
@Entity({ name: 'place' })
export class Place extends FirmRow {
  @PrimaryColumn({ type: 'text' })
  id: string
  @Column({ type: 'text' })
  name: string
  @Column({ type: 'text' })
  island: string
  @Column({ type: 'double precision' })
  lon: number
  @Column({ type: 'double precision' })
  lat: number
}

/** A firm's own ferry, causeway or bridge. */
@Entity({ name: 'crossing' })
export class CrossingRow extends VersionedThing {
  @Column({ type: 'text' })
  kind: CrossingDto['kind']
  @Column({ type: 'text' })
  name: string
  @Column({ type: 'jsonb' })
  fromEnd: CrossingDto['from']
  @Column({ type: 'jsonb' })
  toEnd: CrossingDto['to']
  @Column({ type: 'int' })
  minutes: number
  @Column({ type: 'int' })
  boardMin: number
  @Column({ type: 'int', array: true })
  departures: number[]
  @Column({ type: 'int', array: true })
  returns: number[]
  @Column({ type: 'jsonb' })
  open: [number, number][]
  @Column({ type: 'jsonb' })
  seasons: NonNullable<CrossingDto['seasons']>
  @Column({ type: 'jsonb', nullable: true })
  tides: NonNullable<CrossingDto['tides']> | null
}

/** A person's working times; the id is the person's. */
@Entity({ name: 'work_time' })
export class WorkTimeRow extends VersionedThing {
  @Column({ type: 'text', nullable: true })
  base: string | null
  @Column({ type: 'int', array: true })
  weekdays: number[]
  @Column({ type: 'int' })
  fromMin: number
  @Column({ type: 'int' })
  toMin: number
  @Column({ type: 'int' })
  overtimeMin: number
  @Column({ type: 'double precision', nullable: true })
  vanKg: number | null
}

@Entity({ name: 'day_off' })
export class DayOffRow extends FirmThing {
  /** Null for the whole firm. */
  @Column({ type: 'uuid', nullable: true })
  personId: string | null
  @Column({ type: 'date' })
  fromDay: string
  @Column({ type: 'date' })
  toDay: string
  @Column({ type: 'text' })
  why: string
  @Column({ type: 'text' })
  source: 'typed' | 'calendar' | 'sick'
}

/** When a site may be worked at; the id is the site's. */
@Entity({ name: 'site_hours' })
export class SiteHoursRow extends VersionedThing {
  @Column({ type: 'jsonb' })
  open: [number, number][]
  @Column({ type: 'int', array: true })
  closedWeekdays: number[]
  @Column({ type: 'int', nullable: true })
  accessMin: number | null
}

/** What somebody decided about a visit: it outlives every plan it stands in. */
@Entity({ name: 'round_mark' })
export class RoundMarkRow extends FirmThing {
  @Column({ type: 'uuid' })
  visitId: string
  @Column({ type: 'text' })
  kind: (typeof MARK_KINDS)[number]
  @Column({ type: 'date' })
  day: string
  @Column({ type: 'int', nullable: true })
  fromMin: number | null
  @Column({ type: 'int', nullable: true })
  toMin: number | null
  @Column({ type: 'text' })
  why: string
  @Column({ type: 'uuid' })
  madeBy: string
  @Column({ type: 'timestamptz' })
  madeAt: Date
}

/** A visit nothing was due for: somebody called. */
@Entity({ name: 'round_extra' })
export class RoundExtra extends FirmThing {
  @Column({ type: 'uuid' })
  siteId: string
  @Column({ type: 'uuid' })
  systemId: string
  @Column({ type: 'int' })
  workMin: number
  @Column({ type: 'date' })
  fromDay: string
  @Column({ type: 'date' })
  toDay: string
  @Column({ type: 'text' })
  why: string
  @Column({ type: 'jsonb' })
  tasks: { stageId: string; action: Action }[]
  @Column({ type: 'uuid' })
  madeBy: string
  @Column({ type: 'timestamptz' })
  madeAt: Date
}

/** What was to be planned, as it was known then. */
@Entity({ name: 'round_set' })
export class RoundSetRow extends FirmThing {
  @Column({ type: 'timestamptz' })
  madeAt: Date
  @Column({ type: 'json' })
  set: RoundSet
}

/** The plan in the making; a firm has one, and everybody who plans works on it. */
@Entity({ name: 'round_draft' })
export class RoundDraft extends FirmRow {
  @Column({ type: 'int' })
  version: number
  @Column({ type: 'uuid' })
  setId: string
  @Column({ type: 'jsonb' })
  plan: SetPlan
  @Column({ type: 'uuid' })
  changedBy: string
  @Column({ type: 'timestamptz' })
  changedAt: Date
}

/** Numbered, and never changed. */
@Entity({ name: 'round_publication' })
export class RoundPublication extends FirmRow {
  @PrimaryColumn({ type: 'int' })
  number: number
  @Column({ type: 'uuid' })
  setId: string
  @Column({ type: 'jsonb' })
  plan: SetPlan
  /** What it has otherwise than the one before. */
  @Column({ type: 'jsonb' })
  changes: RoundChange[]
  @Column({ type: 'uuid' })
  publishedBy: string
  @Column({ type: 'timestamptz' })
  publishedAt: Date
}

/** A firm's round being planned by the server: each part's plan is kept as it comes, so that a kill loses only what was being done. */
@Entity({ name: 'round_run' })
export class RoundRunRow extends FirmThing {
  @Column({ type: 'uuid' })
  setId: string
  @Column({ type: 'text' })
  state: (typeof RUN_STATES)[number]
  @Column({ type: 'double precision' })
  share: number
  @Column({ type: 'double precision', nullable: true })
  cost: number | null
  @Column({ type: 'text' })
  message: string
  @Column({ type: 'jsonb' })
  parts: Record<string, SetPlan['days']>
  @Column({ type: 'jsonb', nullable: true })
  plan: SetPlan | null
  @Column({ type: 'boolean' })
  cancelled: boolean
  @Column({ type: 'uuid' })
  askedBy: string
  @Column({ type: 'timestamptz' })
  madeAt: Date
  @Column({ type: 'timestamptz' })
  changedAt: Date
  /** When its plan was applied or discarded, or another one took its place. */
  @Column({ type: 'timestamptz', nullable: true })
  settledAt: Date | null
}
