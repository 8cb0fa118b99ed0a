import type { IntakeCounts, IntakeState } from '@evenround/contract/intake'
import { Column, Entity } from 'typeorm'
import { FirmThing } from './master'

/** A list that was brought in, with its text as it came. */
@Entity({ name: 'intake' })
export class Intake extends FirmThing {
  @Column({ type: 'text' })
  name: string
  @Column({ type: 'uuid' })
  personId: string
  @Column({ type: 'timestamptz' })
  at: Date
  @Column({ type: 'text' })
  source: string
  /** Field of each column, empty for one that was left out. */
  @Column({ type: 'text', array: true })
  columns: string[]
  @Column({ type: 'text' })
  dateOrder: string
  @Column({ type: 'jsonb' })
  counts: IntakeCounts
  @Column({ type: 'timestamptz', nullable: true })
  undoneAt: Date | null
  @Column({ type: 'text', array: true })
  kept: string[]
  @Column({ type: 'text' })
  state: IntakeState
  /** How much of it is written, 0 to 1. */
  @Column({ type: 'real' })
  progress: number
  @Column({ type: 'boolean' })
  stopAsked: boolean
  /** Lines that could not come in. */
  @Column({ type: 'int' })
  leftOut: number
  @Column({ type: 'text', nullable: true })
  failure: string | null
}
