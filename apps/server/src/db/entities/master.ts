import type { Schools, Units } from '@evenround/contract/firm'
import type { RoundTerms } from '@evenround/contract/rounds'
import type { FollowsWhy, JobDay } from '@evenround/contract/site'
import type { Housing, Medium } from '@evenround/core/catalogue'
import type { Role } from '@evenround/core/firm'
import type { Action, Train } from '@evenround/core/train'
import type { Spread, WaterSource, WearSchool } from '@evenround/core/wear'
import { Column, Entity, PrimaryColumn } from 'typeorm'

/** Every table carries the firm first in its key; column types are named because the runtime has no decorator metadata. */
export abstract class FirmRow {
  @PrimaryColumn({ name: 'firm_id', type: 'uuid' })
  firmId: string
}

export abstract class FirmThing extends FirmRow {
  @PrimaryColumn({ type: 'uuid' })
  id: string
}

/** Edited with a version: an edit on an old version is refused with both sides shown. */
export abstract class VersionedThing extends FirmThing {
  @Column({ type: 'int' })
  version: number
}

@Entity({ name: 'firm' })
export class Firm extends FirmRow {
  @Column({ type: 'text' })
  name: string
  @Column({ name: 'time_zone', type: 'text' })
  timeZone: string
  @Column({ type: 'text' })
  currency: string
  @Column({ type: 'text' })
  gallon: 'us' | 'imperial'
  @Column({ type: 'jsonb' })
  units: Units
  @Column({ type: 'jsonb' })
  schools: Schools
  /** What the round is planned by. */
  @Column({ name: 'round_terms', type: 'jsonb' })
  roundTerms: RoundTerms
  /** How much its sites, parts and households differ, learned from its past; null until there is enough of it. */
  @Column({ type: 'jsonb', nullable: true })
  spread: Spread | null
  @Column({ type: 'int' })
  version: number
}

@Entity({ name: 'person' })
export class Person extends VersionedThing {
  @Column({ type: 'text' })
  name: string
  @Column({ type: 'text' })
  email: string
  @Column({ type: 'text' })
  role: Role
  @Column({ type: 'text', array: true })
  skills: 'wells'[]
  @Column({ type: 'text', nullable: true })
  van: string | null
  @Column({ type: 'boolean' })
  active: boolean
}

@Entity({ name: 'site' })
export class Site extends VersionedThing {
  @Column({ type: 'text' })
  name: string
  @Column({ type: 'text' })
  village: string
  @Column({ type: 'text' })
  island: string
  @Column({ type: 'text' })
  access: string
  @Column({ type: 'text' })
  contact: string
  @Column({ type: 'text' })
  phone: string
  @Column({ type: 'int' })
  people: number
  @Column({ type: 'text' })
  source: WaterSource
  @Column({ name: 'chlorine_mg_l', type: 'double precision', nullable: true })
  chlorineMgL: number | null
  /** Null follows the firm. */
  @Column({ name: 'change_school', type: 'text', nullable: true })
  changeSchool: WearSchool | null
  /** The list it came in by. */
  @Column({ name: 'intake_id', type: 'uuid', nullable: true })
  intakeId: string | null
  /** Taken back with its list: on no screen any more. */
  @Column({ name: 'gone_at', type: 'timestamptz', nullable: true })
  goneAt: Date | null
}

@Entity({ name: 'system' })
export class System extends FirmThing {
  @Column({ name: 'site_id', type: 'uuid' })
  siteId: string
  @Column({ type: 'text' })
  name: string
  @Column({ name: 'train_version', type: 'int' })
  trainVersion: number
  @Column({ name: 'intake_id', type: 'uuid', nullable: true })
  intakeId: string | null
  @Column({ name: 'gone_at', type: 'timestamptz', nullable: true })
  goneAt: Date | null
}

/** Trains are kept by version, since a visit goes on with the one it began with. */
@Entity({ name: 'train_version' })
export class TrainVersion extends FirmRow {
  @PrimaryColumn({ name: 'system_id', type: 'uuid' })
  systemId: string
  @PrimaryColumn({ type: 'int' })
  version: number
  @Column({ type: 'jsonb' })
  train: Train
}

/** A lasting place in a train: what sits in it is derived from facts. */
@Entity({ name: 'stage' })
export class Stage extends FirmThing {
  @Column({ name: 'system_id', type: 'uuid' })
  systemId: string
  @Column({ name: 'next_part_id', type: 'uuid', nullable: true })
  nextPartId: string | null
  /** Null follows the site. */
  @Column({ name: 'change_school', type: 'text', nullable: true })
  changeSchool: WearSchool | null
}

@Entity({ name: 'part' })
export class Part extends VersionedThing {
  @Column({ name: 'part_number', type: 'text' })
  partNumber: string
  @Column({ type: 'text' })
  maker: string
  @Column({ type: 'text' })
  name: string
  @Column({ type: 'text' })
  media: Medium
  @Column({ type: 'text' })
  housing: Housing
  @Column({ name: 'rated_days', type: 'double precision', nullable: true })
  ratedDays: number | null
  @Column({ name: 'rated_litres', type: 'double precision', nullable: true })
  ratedLitres: number | null
  @Column({ name: 'rated_milliequivalents', type: 'double precision', nullable: true })
  ratedMilliequivalents: number | null
  @Column({ name: 'rated_hours', type: 'double precision', nullable: true })
  ratedHours: number | null
  /** Integer minor units of the firm's currency. */
  @Column({ name: 'price_minor', type: 'int' })
  priceMinor: number
}

@Entity({ name: 'stop' })
export class Stop extends VersionedThing {
  @Column({ name: 'site_id', type: 'uuid' })
  siteId: string
  @Column({ name: 'system_id', type: 'uuid' })
  systemId: string
  @Column({ name: 'technician_id', type: 'uuid' })
  technicianId: string
  /** Working day in the firm's zone. */
  @Column({ type: 'text' })
  day: string
  @Column({ name: 'order_no', type: 'int' })
  orderNo: number
  /** Minutes after midnight in the firm's zone. */
  @Column({ name: 'leave_min', type: 'int' })
  leaveMin: number
  @Column({ name: 'arrive_min', type: 'int' })
  arriveMin: number
  @Column({ name: 'work_min', type: 'int' })
  workMin: number
  @Column({ name: 'travel_min', type: 'int' })
  travelMin: number
  @Column({ name: 'ferry_at', type: 'text', nullable: true })
  ferryAt: string | null
  @Column({ type: 'boolean' })
  promised: boolean
  /** The visit this one goes on from, and why; null for one that stands alone. */
  @Column({ name: 'follows_visit', type: 'uuid', nullable: true })
  followsVisit: string | null
  @Column({ name: 'follows_why', type: 'text', nullable: true })
  followsWhy: FollowsWhy | null
  @Column({ name: 'not_before', type: 'timestamptz', nullable: true })
  notBefore: Date | null
  @Column({ name: 'not_after', type: 'timestamptz', nullable: true })
  notAfter: Date | null
  /** The disinfection it is a day of, and which day; null for one of run sheets. */
  @Column({ name: 'job_id', type: 'uuid', nullable: true })
  jobId: string | null
  @Column({ name: 'job_day', type: 'text', nullable: true })
  jobDay: JobDay | null
  /** The way home where it is the day's last stop, minutes; null where nobody worked it out. */
  @Column({ name: 'home_min', type: 'int', nullable: true })
  homeMin: number | null
  /** The publication it came or was last moved with, and the visit of the round it is part of. */
  @Column({ type: 'int', nullable: true })
  publication: number | null
  @Column({ name: 'visit_key', type: 'uuid', nullable: true })
  visitKey: string | null
  /** The customer's window, where one was promised. */
  @Column({ name: 'promise_from', type: 'int', nullable: true })
  promiseFrom: number | null
  @Column({ name: 'promise_to', type: 'int', nullable: true })
  promiseTo: number | null
}

@Entity({ name: 'stop_task' })
export class StopTask extends FirmRow {
  @PrimaryColumn({ name: 'stop_id', type: 'uuid' })
  stopId: string
  @PrimaryColumn({ name: 'stage_id', type: 'uuid' })
  stageId: string
  @Column({ type: 'text' })
  action: Action
}
