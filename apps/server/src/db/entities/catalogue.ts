import type { MediaLimits, Medium } from '@evenround/core/catalogue'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { FirmRow } from './master'

/** A firm's own figures for a medium; without a row ours stand. */
@Entity({ name: 'medium_profile' })
export class MediumProfile extends FirmRow {
  @PrimaryColumn({ type: 'text' })
  media: Medium
  @Column({ type: 'double precision', nullable: true })
  lifeMonths: number | null
  @Column({ type: 'double precision', nullable: true })
  ratedLitres: number | null
  @Column({ type: 'double precision', nullable: true })
  ratedHours: number | null
  @Column({ type: 'jsonb' })
  limits: MediaLimits
  @Column({ type: 'int' })
  version: number
}

/** Two parts that stand in for one another, the lower id first. */
@Entity({ name: 'part_equivalent' })
export class PartEquivalent extends FirmRow {
  @PrimaryColumn({ type: 'uuid' })
  partId: string
  @PrimaryColumn({ type: 'uuid' })
  otherId: string
}
