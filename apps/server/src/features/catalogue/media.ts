import type { MediumProfileDto, mediumEditSchema } from '@evenround/contract/shelf'
import { MEDIA, MEDIA_PROFILES, type MediaLimit, type MediaLimits, type StandardMedium } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import type { z } from 'zod'
import { MediumProfile } from '../../db/entities/catalogue'
import type { FirmScope } from '../../db/scope'
import { ApiError, badInput } from '../../http/errors'
import { type FirmProfile, profilesOf } from '../wear/profiles'
import { markMedium } from '../wear/stale'

export const mediumDto = (
  media: StandardMedium,
  { lifeMonths, ratedLitres, ratedHours, limits, lateDaysWorth, version }: FirmProfile,
): MediumProfileDto => ({
  media,
  lifeMonths,
  ratedLitres,
  ratedHours,
  limits,
  lateDaysWorth,
  version,
})

export async function mediaPage(scope: FirmScope): Promise<MediumProfileDto[]> {
  const profiles = await profilesOf(scope)
  return MEDIA.map((media) => mediumDto(media, profiles.of(media)))
}

type Edit = z.infer<typeof mediumEditSchema>

/** A limit is set for what is measured on the medium and for nothing else. */
function ownLimits(media: StandardMedium, limits: Edit['limits']): MediaLimits {
  const usual = MEDIA_PROFILES[media].limits
  const strange = Object.keys(limits).find((name) => !(name in usual))
  if (strange)
    throw badInput([
      { path: `limits.${strange}`, message: say`expected no such limit: it is not measured on ${MEDIA_PROFILES[media].name}` },
    ])
  return Object.fromEntries(
    Object.entries(limits).filter(([name, value]) => value !== undefined && value !== usual[name as MediaLimit]),
  ) as MediaLimits
}

/** The firm's own figures for a medium from now on; forecasts of the stages that hold it are recomputed. */
export async function editMedium(
  scope: FirmScope,
  media: StandardMedium,
  { version, limits, ...figures }: Edit,
  now: Date,
): Promise<FirmProfile> {
  const row = { media, ...figures, limits: ownLimits(media, limits), version: version + 1 }
  const changed =
    version === 0
      ? await scope.query(
          `insert into medium_profile (firm_id, media, life_months, rated_litres, rated_hours, limits, late_days_worth, version)
           values ($1, $2, $3, $4, $5, $6, $7, 1)
           on conflict do nothing returning 1`,
          [media, figures.lifeMonths, figures.ratedLitres, figures.ratedHours, JSON.stringify(row.limits), figures.lateDaysWorth],
        )
      : { length: await scope.update(MediumProfile, { media, version }, row) }
  const profile = (await profilesOf(scope)).of(media)
  if (changed.length === 0)
    throw new ApiError('STALE_VERSION', say`Somebody changed these figures meanwhile. Look at both and save again.`, {
      current: mediumDto(media, profile),
    })
  await markMedium(scope, now, media)
  return profile
}
