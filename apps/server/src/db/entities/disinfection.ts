import type { JobStand, NextAct, Target } from '@evenround/core/disinfection'
import { Column, Entity } from 'typeorm'
import { FirmThing, VersionedThing } from './master'

/** Where each disinfection stands, made anew from its facts with each of them: lists are read from here, never the facts. */
@Entity({ name: 'disinfection' })
export class Disinfection extends FirmThing {
  @Column({ name: 'site_id', type: 'uuid' })
  siteId: string
  @Column({ type: 'text', array: true })
  targets: Target[]
  @Column({ type: 'text' })
  stand: JobStand
  @Column({ name: 'next_act', type: 'text', nullable: true })
  nextAct: NextAct['act'] | null
  @Column({ name: 'next_from', type: 'timestamptz', nullable: true })
  nextFrom: Date | null
  @Column({ name: 'next_to', type: 'timestamptz', nullable: true })
  nextTo: Date | null
  @Column({ name: 'technician_id', type: 'uuid' })
  technicianId: string
  /** Day the chlorine goes in, in the firm's zone. */
  @Column({ name: 'dose_day', type: 'text' })
  doseDay: string
  /** Day it is due again; null for never, or before it is proved. */
  @Column({ name: 'again_on', type: 'text', nullable: true })
  againOn: string | null
  @Column({ name: 'after_job', type: 'uuid', nullable: true })
  afterJob: string | null
  @Column({ name: 'changed_at', type: 'timestamptz' })
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
  @Column({ name: 'density_kg_l', type: 'double precision', nullable: true })
  densityKgL: number | null
  @Column({ name: 'strength_as', type: 'text' })
  strengthAs: 'available-chlorine' | 'sodium-hypochlorite'
  @Column({ type: 'boolean' })
  thickened: boolean
  /** Day it was filled, by its label. */
  @Column({ name: 'filled_on', type: 'text', nullable: true })
  filledOn: string | null
  @Column({ name: 'stored_at_c', type: 'double precision' })
  storedAtC: number
}
