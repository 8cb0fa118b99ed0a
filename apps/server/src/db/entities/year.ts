import type { YEAR_KINDS, YearKnown, YearPlanDto, YearWhatIf } from '@evenround/contract/year-page'
import type { YearVisit } from '@evenround/core/year'
import { Column, Entity } from 'typeorm'
import { FirmThing } from './master'

export const YEAR_STATES = ['offered', 'applied', 'undone', 'discarded'] as const

/** A plan of a year: what it was made of, what it is, and what it came to when it was made. Of those applied the latest is in force. */
@Entity({ name: 'year_plan' })
export class YearPlanRow extends FirmThing {
  @Column({ type: 'text' })
  kind: (typeof YEAR_KINDS)[number]
  @Column({ type: 'text' })
  state: (typeof YEAR_STATES)[number]
  /** The Monday of its first week. */
  @Column({ type: 'date' })
  fromDay: string
  @Column({ type: 'jsonb', nullable: true })
  whatIf: YearWhatIf | null
  @Column({ type: 'jsonb' })
  known: YearKnown
  @Column({ type: 'jsonb' })
  visits: YearVisit[]
  @Column({ type: 'jsonb' })
  shown: Pick<YearPlanDto, 'before' | 'after' | 'heavy' | 'leftOut'>
  @Column({ type: 'uuid' })
  madeBy: string
  @Column({ type: 'timestamptz' })
  madeAt: Date
  @Column({ type: 'timestamptz', nullable: true })
  settledAt: Date | null
  /** Where somebody began from before a plan of another base was applied. */
  @Column({ type: 'text', nullable: true })
  earlierBase: string | null
}
