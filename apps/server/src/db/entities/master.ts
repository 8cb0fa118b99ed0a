import type { CautionsSigned, Schools, Units } from '@evenround/contract/firm'
import type { RoundTerms } from '@evenround/contract/rounds'
import type { FollowsWhy, JobDay } from '@evenround/contract/site'
import type { SecondFactorRule } from '@evenround/core/firm'
import { PART_FIELDS, type Role, SITE_FIELDS } from '@evenround/core/firm'
import type { Action, Train } from '@evenround/core/train'
import type { Spread, WearSchool } from '@evenround/core/wear'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { keeping } from '../columns'

/** Every table carries the firm first in its key; column types are named because the runtime has no decorator metadata. */
export abstract class FirmRow {
  @PrimaryColumn({ type: 'uuid' })
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
  @Column({ type: 'text' })
  timeZone: string
  @Column({ type: 'text' })
  currency: string
  @Column({ type: 'text' })
  gallon: 'us' | 'imperial'
  @Column({ type: 'jsonb' })
  units: Units
  @Column({ type: 'jsonb' })
  schools: Schools
  /** Whether owners are asked for a second factor. */
  @Column({ type: 'text' })
  secondFactor: SecondFactorRule
  /** Which languages' cautions somebody competent has signed off, by language. */
  @Column({ type: 'jsonb' })
  cautionsSigned: CautionsSigned
  /** What the round is planned by. */
  @Column({ type: 'jsonb' })
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
export class Site extends keeping(VersionedThing, SITE_FIELDS) {
  /** Null follows the firm. */
  @Column({ type: 'text', nullable: true })
  changeSchool: WearSchool | null
  /** The list it came in by. */
  @Column({ type: 'uuid', nullable: true })
  intakeId: string | null
  /** On no screen any more. */
  @Column({ type: 'timestamptz', nullable: true })
  goneAt: Date | null
  /** Null: taken back with its list. */
  @Column({ type: 'text', nullable: true })
  goneWhy: 'left' | 'merged' | 'erased' | null
  /** The site it turned out to be the same as. */
  @Column({ type: 'uuid', nullable: true })
  mergedInto: string | null
}

@Entity({ name: 'system' })
export class System extends FirmThing {
  @Column({ type: 'uuid' })
  siteId: string
  @Column({ type: 'text' })
  name: string
  /** On its plate; empty where nobody wrote it down. */
  @Column({ type: 'text', default: '' })
  serialNo: string
  @Column({ type: 'int' })
  trainVersion: number
  @Column({ type: 'uuid', nullable: true })
  intakeId: string | null
  @Column({ type: 'timestamptz', nullable: true })
  goneAt: Date | null
}

/** Trains are kept by version, since a visit goes on with the one it began with. */
@Entity({ name: 'train_version' })
export class TrainVersion extends FirmRow {
  @PrimaryColumn({ type: 'uuid' })
  systemId: string
  @PrimaryColumn({ type: 'int' })
  version: number
  @Column({ type: 'jsonb' })
  train: Train
  /** Who drew it, and when; null for what came with a list or before it was kept. */
  @Column({ type: 'uuid', nullable: true })
  drawnBy: string | null
  @Column({ type: 'timestamptz', nullable: true })
  drawnAt: Date | null
}

/** A lasting place in a train: what sits in it is derived from facts. */
@Entity({ name: 'stage' })
export class Stage extends FirmThing {
  @Column({ type: 'uuid' })
  systemId: string
  @Column({ type: 'uuid', nullable: true })
  nextPartId: string | null
  /** Null follows the site. */
  @Column({ type: 'text', nullable: true })
  changeSchool: WearSchool | null
}

@Entity({ name: 'part' })
export class Part extends keeping(VersionedThing, PART_FIELDS) {}

@Entity({ name: 'stop' })
export class Stop extends VersionedThing {
  @Column({ type: 'uuid' })
  siteId: string
  @Column({ type: 'uuid' })
  systemId: string
  @Column({ type: 'uuid' })
  technicianId: string
  /** Working day in the firm's zone. */
  @Column({ type: 'text' })
  day: string
  @Column({ type: 'int' })
  orderNo: number
  /** Minutes after midnight in the firm's zone. */
  @Column({ type: 'int' })
  leaveMin: number
  @Column({ type: 'int' })
  arriveMin: number
  @Column({ type: 'int' })
  workMin: number
  @Column({ type: 'int' })
  travelMin: number
  @Column({ type: 'text', nullable: true })
  ferryAt: string | null
  @Column({ type: 'boolean' })
  promised: boolean
  /** The visit this one goes on from, and why; null for one that stands alone. */
  @Column({ type: 'uuid', nullable: true })
  followsVisit: string | null
  @Column({ type: 'text', nullable: true })
  followsWhy: FollowsWhy | null
  @Column({ type: 'timestamptz', nullable: true })
  notBefore: Date | null
  @Column({ type: 'timestamptz', nullable: true })
  notAfter: Date | null
  /** The disinfection it is a day of, and which day; null for one of run sheets. */
  @Column({ type: 'uuid', nullable: true })
  jobId: string | null
  @Column({ type: 'text', nullable: true })
  jobDay: JobDay | null
  /** The way home where it is the day's last stop, minutes; null where nobody worked it out. */
  @Column({ type: 'int', nullable: true })
  homeMin: number | null
  /** Estimated over land, not known from roads and timetables. */
  @Column({ type: 'boolean' })
  wayEstimated: boolean
  /** The publication it came or was last moved with, and the visit of the round it is part of. */
  @Column({ type: 'int', nullable: true })
  publication: number | null
  @Column({ type: 'uuid', nullable: true })
  visitKey: string | null
  /** The customer's window, where one was promised. */
  @Column({ type: 'int', nullable: true })
  promiseFrom: number | null
  @Column({ type: 'int', nullable: true })
  promiseTo: number | null
}

@Entity({ name: 'stop_task' })
export class StopTask extends FirmRow {
  @PrimaryColumn({ type: 'uuid' })
  stopId: string
  @PrimaryColumn({ type: 'uuid' })
  stageId: string
  @Column({ type: 'text' })
  action: Action
}
