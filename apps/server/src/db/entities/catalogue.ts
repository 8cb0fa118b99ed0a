import type { MediaLimits, Medium } from '@evenround/core/catalogue'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { FirmRow } from './master'

/** A firm's own figures for a medium; without a row ours stand. */
@Entity({ name: 'medium_profile' })
export class MediumProfile extends FirmRow {
  @PrimaryColumn({ type: 'text' })
  media: Medium
  @Column({ name: 'life_months', type: 'double precision', nullable: true })
  lifeMonths: number | null
  @Column({ name: 'rated_litres', type: 'double precision', nullable: true })
  ratedLitres: number | null
  @Column({ name: 'rated_hours', type: 'double precision', nullable: true })
  ratedHours: number | null
  @Column({ type: 'jsonb' })
  limits: MediaLimits
  @Column({ type: 'int' })
  version: number
}

/** Two parts that stand in for one another, the lower id first. */
@Entity({ name: 'part_equivalent' })
export class PartEquivalent extends FirmRow {
  @PrimaryColumn({ name: 'part_id', type: 'uuid' })
  partId: string
  @PrimaryColumn({ name: 'other_id', type: 'uuid' })
  otherId: string
}
