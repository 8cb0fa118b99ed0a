import { type MediaLimits, type Medium, type OwnKind, profileOf } from '@evenround/core/catalogue'
import { usualLateDays } from '@evenround/core/wear'
import { MediumProfile } from '../../db/entities/catalogue'
import type { FirmScope } from '../../db/scope'
import { kindsOf } from './kinds'

export interface FirmProfile {
  lifeMonths: number | null
  ratedLitres: number | null
  ratedHours: number | null
  limits: MediaLimits
  /** What a day past the end costs, in days of life: the firm's figure, null while ours stands. */
  lateDaysWorth: number | null
  /** 0 while ours stand. */
  version: number
}
export interface FirmProfiles {
  of(media: Medium): FirmProfile
}

const ours = (media: Medium, own: OwnKind | undefined): FirmProfile => {
  const { lifeMonths, ratedLitres, ratedHours, limits } = profileOf({ media, own })
  return { lifeMonths, ratedLitres, ratedHours, limits, lateDaysWorth: null, version: 0 }
}

/** What each medium, and each kind of the firm's own, is rated at and limited by in this firm: its own figures, ours where it has none. */
export async function profilesOf(scope: FirmScope): Promise<FirmProfiles> {
  const [figures, own] = await Promise.all([scope.find(MediumProfile), kindsOf(scope)])
  const rows = new Map(figures.map((row) => [row.media, row]))
  const kinds = new Map<string, OwnKind>(own.map((kind) => [kind.id, kind]))
  const profile = (media: Medium): FirmProfile => {
    const row = rows.get(media)
    if (!row) return ours(media, kinds.get(media))
    const { lifeMonths, ratedLitres, ratedHours, limits, lateDaysWorth, version } = row
    return { lifeMonths, ratedLitres, ratedHours, limits: { ...profileOf({ media }).limits, ...limits }, lateDaysWorth, version }
  }
  return { of: profile }
}

/** What a day past the end costs in this firm, in days of life. */
export const lateWorthOf = (profiles: FirmProfiles, media: Medium): number => profiles.of(media).lateDaysWorth ?? usualLateDays(media)
