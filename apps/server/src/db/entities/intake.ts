import type { IntakeCounts } from '@evenround/contract/intake'
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
}
