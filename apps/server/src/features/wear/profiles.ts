import { MEDIA, MEDIA_PROFILES, type MediaLimits, type Medium } from '@evenround/core/catalogue'
import { LATE_DAYS_WORTH } from '@evenround/core/wear'
import { MediumProfile } from '../../db/entities/catalogue'
import type { FirmScope } from '../../db/scope'

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
export type FirmProfiles = Record<Medium, FirmProfile>

const ours = (media: Medium): FirmProfile => {
  const { lifeMonths, ratedLitres, ratedHours, limits } = MEDIA_PROFILES[media]
  return { lifeMonths, ratedLitres, ratedHours, limits, lateDaysWorth: null, version: 0 }
}

/** What each medium is rated at and limited by in this firm: its own figures, ours where it has none. */
export async function profilesOf(scope: FirmScope): Promise<FirmProfiles> {
  const own = new Map((await scope.find(MediumProfile)).map((row) => [row.media, row]))
  const profile = (media: Medium): FirmProfile => {
    const row = own.get(media)
    if (!row) return ours(media)
    const { lifeMonths, ratedLitres, ratedHours, limits, lateDaysWorth, version } = row
    return { lifeMonths, ratedLitres, ratedHours, limits: { ...MEDIA_PROFILES[media].limits, ...limits }, lateDaysWorth, version }
  }
  return Object.fromEntries(MEDIA.map((media) => [media, profile(media)])) as FirmProfiles
}

/** What a day past the end costs in this firm, in days of life. */
export const lateWorthOf = (profiles: FirmProfiles, media: Medium): number => profiles[media].lateDaysWorth ?? LATE_DAYS_WORTH[media]
