import type { JobStand, NextAct, Target } from '@evenround/core/disinfection'
import { Column, Entity } from 'typeorm'
import { FirmThing, VersionedThing } from './master'

/** Where each disinfection stands, made anew from its facts with each of them: lists are read from here, never the facts. */
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
export class ChlorineProduct extends VersionedThing {
  @Column({ type: 'text' })
  name: string
  @Column({ type: 'text' })
  form: 'liquid' | 'solid'
  @Column({ type: 'double precision' })
  percent: number
  @Column({ type: 'text', nullable: true })
  basis: 'w/w' | 'w/v' | null
  @Column({ type: 'double precision', nullable: true })
  densityKgL: number | null
  @Column({ type: 'text' })
  strengthAs: 'available-chlorine' | 'sodium-hypochlorite'
  @Column({ type: 'boolean' })
  thickened: boolean
  /** Day it was filled, by its label. */
  @Column({ type: 'text', nullable: true })
  filledOn: string | null
  @Column({ type: 'double precision' })
  storedAtC: number
}
