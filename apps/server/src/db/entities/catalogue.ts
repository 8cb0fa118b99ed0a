import type { Medium, OwnKind, OwnMedium } from '@evenround/core/catalogue'
import { MEDIUM_FIELDS } from '@evenround/core/firm'
import { Column, Entity, PrimaryColumn } from 'typeorm'
import { keeping } from '../columns'
import { FirmRow } from './master'

/** A firm's own figures for a medium; without a row ours stand. */
@Entity({ name: 'medium_profile' })
export class MediumProfile extends keeping(FirmRow, MEDIUM_FIELDS) {
  @PrimaryColumn({ type: 'text' })
  media: Medium
  @Column({ type: 'int' })
  version: number
}

/** A kind of part that the firm named itself; its name is in its id. */
@Entity({ name: 'own_kind' })
export class OwnKindRow extends FirmRow {
  @PrimaryColumn({ type: 'text' })
  media: OwnMedium
  @Column({ type: 'jsonb' })
  causes: OwnKind['causes']
  @Column({ type: 'double precision', nullable: true })
  lifeMonths: number | null
  @Column({ type: 'double precision', nullable: true })
  ratedLitres: number | null
  @Column({ type: 'double precision', nullable: true })
  soakHours: number | null
  @Column({ type: 'jsonb', nullable: true })
  flush: OwnKind['flush']
  @Column({ type: 'text' })
  endUp: OwnKind['endUp']
  @Column({ type: 'jsonb' })
  cautions: OwnKind['cautions']
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
