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

/** A person's working times; the id is the person's. */
@Entity({ name: 'work_time' })
export class WorkTimeRow extends VersionedThing {
  @Column({ type: 'text', nullable: true })
  base: string | null
  @Column({ type: 'int', array: true })
  weekdays: number[]
  @Column({ name: 'from_min', type: 'int' })
  fromMin: number
  @Column({ name: 'to_min', type: 'int' })
  toMin: number
  @Column({ name: 'overtime_min', type: 'int' })
  overtimeMin: number
  @Column({ name: 'van_kg', type: 'double precision', nullable: true })
  vanKg: number | null
}

@Entity({ name: 'day_off' })
export class DayOffRow extends FirmThing {
  /** Null for the whole firm. */
  @Column({ name: 'person_id', type: 'uuid', nullable: true })
  personId: string | null
  @Column({ name: 'from_day', type: 'date' })
  fromDay: string
  @Column({ name: 'to_day', type: 'date' })
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
  @Column({ name: 'closed_weekdays', type: 'int', array: true })
  closedWeekdays: number[]
  @Column({ name: 'access_min', type: 'int', nullable: true })
  accessMin: number | null
}

/** What somebody decided about a visit: it outlives every plan it stands in. */
@Entity({ name: 'round_mark' })
export class RoundMarkRow extends FirmThing {
  @Column({ name: 'visit_id', type: 'uuid' })
  visitId: string
  @Column({ type: 'text' })
  kind: (typeof MARK_KINDS)[number]
  @Column({ type: 'date' })
  day: string
  @Column({ name: 'from_min', type: 'int', nullable: true })
  fromMin: number | null
  @Column({ name: 'to_min', type: 'int', nullable: true })
  toMin: number | null
  @Column({ type: 'text' })
  why: string
  @Column({ name: 'made_by', type: 'uuid' })
  madeBy: string
  @Column({ name: 'made_at', type: 'timestamptz' })
  madeAt: Date
}

/** A visit nothing was due for: somebody called. */
@Entity({ name: 'round_extra' })
export class RoundExtra extends FirmThing {
  @Column({ name: 'site_id', type: 'uuid' })
  siteId: string
  @Column({ name: 'system_id', type: 'uuid' })
  systemId: string
  @Column({ name: 'work_min', type: 'int' })
  workMin: number
  @Column({ name: 'from_day', type: 'date' })
  fromDay: string
  @Column({ name: 'to_day', type: 'date' })
  toDay: string
  @Column({ type: 'text' })
  why: string
  @Column({ type: 'jsonb' })
  tasks: { stageId: string; action: Action }[]
  @Column({ name: 'made_by', type: 'uuid' })
  madeBy: string
  @Column({ name: 'made_at', type: 'timestamptz' })
  madeAt: Date
}

/** What was to be planned, as it was known then. */
@Entity({ name: 'round_set' })
export class RoundSetRow extends FirmThing {
  @Column({ name: 'made_at', type: 'timestamptz' })
  madeAt: Date
  @Column({ type: 'jsonb' })
  set: RoundSet
}

/** The plan in the making; a firm has one, and everybody who plans works on it. */
@Entity({ name: 'round_draft' })
export class RoundDraft extends FirmRow {
  @Column({ type: 'int' })
  version: number
  @Column({ name: 'set_id', type: 'uuid' })
  setId: string
  @Column({ type: 'jsonb' })
  plan: SetPlan
  @Column({ name: 'changed_by', type: 'uuid' })
  changedBy: string
  @Column({ name: 'changed_at', type: 'timestamptz' })
  changedAt: Date
}

/** Numbered, and never changed. */
@Entity({ name: 'round_publication' })
export class RoundPublication extends FirmRow {
  @PrimaryColumn({ type: 'int' })
  number: number
  @Column({ name: 'set_id', type: 'uuid' })
  setId: string
  @Column({ type: 'jsonb' })
  plan: SetPlan
  /** What it has otherwise than the one before. */
  @Column({ type: 'jsonb' })
  changes: RoundChange[]
  @Column({ name: 'published_by', type: 'uuid' })
  publishedBy: string
  @Column({ name: 'published_at', type: 'timestamptz' })
  publishedAt: Date
}

/** A firm's round being planned by the server: each part's plan is kept as it comes, so that a kill loses only what was being done. */
@Entity({ name: 'round_run' })
export class RoundRunRow extends FirmThing {
  @Column({ name: 'set_id', type: 'uuid' })
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
  @Column({ name: 'asked_by', type: 'uuid' })
  askedBy: string
  @Column({ name: 'made_at', type: 'timestamptz' })
  madeAt: Date
  @Column({ name: 'changed_at', type: 'timestamptz' })
  changedAt: Date
}
