import { USUAL_MEMBRANE } from '../readings/limits'
import { number, type RecordOf } from '../records'

const share = number(0.02, 0.95)
/** Where a measured cause ends a part: each limit only for the media it is measured on; a firm may move each within these. */
export const MEDIA_LIMIT_FIELDS = {
  /** Pressure drop over the clean one, kPa. */
  overCleanKpa: number(5, 500),
  /** Flow at a tap as a share of the clean one. */
  flowShare: share,
  /** Treated over untreated TDS, by a fixed floor. */
  passage: share,
  /** Passage over the membrane's own first one. */
  passageRatio: number(1.1, 10),
  /** Temperature-corrected permeate as a share of the first. */
  permeateShare: share,
  /** Free chlorine after carbon, mg/L. */
  chlorineMgL: number(0.02, 4),
  /** Ultraviolet intensity after cleaning, % of new. */
  intensityPercent: number(20, 95),
} as const
export type MediaLimit = keyof typeof MEDIA_LIMIT_FIELDS
export type MediaLimits = Partial<RecordOf<typeof MEDIA_LIMIT_FIELDS>>

/** What holds where nobody set a limit. By the fixed floor a membrane is judged only where a profile says so: its own first passage comes first. */
export const USUAL_LIMITS = {
  overCleanKpa: 70,
  flowShare: 0.6,
  passage: USUAL_MEMBRANE.replacePassage,
  passageRatio: USUAL_MEMBRANE.replaceRatio,
  permeateShare: 0.7,
  chlorineMgL: 0.1,
  intensityPercent: 70,
} as const satisfies Required<MediaLimits>
