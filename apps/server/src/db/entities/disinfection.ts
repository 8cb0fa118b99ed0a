import type { Target } from '@evenround/core/disinfection'
import { CHLORINE_FIELDS } from '@evenround/core/firm'
import type { JobStand, NextAct } from '@evenround/core/job'
import { Column, Entity } from 'typeorm'
import { keeping } from '../columns'
import { FirmThing, VersionedThing } from './master'

/** Where each disinfection stands, recomputed from its facts with each of them: lists are read from here, never the facts. */
@Entity({ name: 'disinfection' })
export class Disinfection extends FirmThing {
  @Column({ type: 'uuid' })
  siteId: string
  @Column({ type: 'text', array: true })
  targets: Target[]
  @Column({ type: 'text' })
  stand: JobStand
  @Column({ type: 'text', nullable: true })
  nextAct: NextAct['act'] | null
  @Column({ type: 'timestamptz', nullable: true })
  nextFrom: Date | null
  @Column({ type: 'timestamptz', nullable: true })
  nextTo: Date | null
  @Column({ type: 'uuid' })
  technicianId: string
  /** Day the chlorine goes in, in the firm's zone. */
  @Column({ type: 'text' })
  doseDay: string
  /** Day it is due again; null for never, or before it is proved. */
  @Column({ type: 'text', nullable: true })
  againOn: string | null
  @Column({ type: 'uuid', nullable: true })
  afterJob: string | null
  @Column({ type: 'timestamptz' })
  changedAt: Date
}

/** Chlorine as the firm buys it. */
@Entity({ name: 'chlorine_product' })
export class ChlorineProduct extends keeping(VersionedThing, CHLORINE_FIELDS) {}
