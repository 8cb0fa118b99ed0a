import { say } from '../words'
import { USUAL_LIMITS } from './limits'
import { MEDIA_PROFILES, type MediaProfile } from './media-profiles'
import type { Medium, OwnMedium, StandardMedium } from './names'

const MARK = 'own:'

/** What can end a kind of the firm's own: time, litres, dirt in it, chlorine after it. */
export const OWN_CAUSES = ['calendar', 'throughput', 'pressure', 'breakthrough'] as const
export type OwnCause = (typeof OWN_CAUSES)[number]

/** A kind of part that the firm works with and the standard media do not name. */
export interface OwnKind {
  id: OwnMedium
  /** As people say it, lower case: "ceramic candle". */
  name: string
  causes: OwnCause[]
  lifeMonths: number | null
  ratedLitres: number | null
  /** Hours that it stands in water before it is flushed; null when it needs none. */
  soakHours: number | null
  /** What runs to waste before service; null when nothing does. `alone`: every later housing empty meanwhile. */
  flush: { litres: number; minutes: number; alone: boolean } | null
  endUp: 'washer' | 'arrow' | 'either'
  cautions: string[]
}

/** Something with a medium, and what the firm said of it where it is one of its own. */
export interface OfKind {
  media: Medium
  own?: OwnKind | undefined
}

export const isOwn = (media: string): media is OwnMedium => media.startsWith(MARK)
export const ownMedium = (name: string): OwnMedium => `${MARK}${name}`

/** What is taken of a kind nobody described: what it sheds is nobody knows what, so it is flushed alone. */
const unknownKind = (id: OwnMedium): OwnKind => ({
  id,
  name: id.slice(MARK.length),
  causes: ['calendar'],
  lifeMonths: 6,
  ratedLitres: null,
  soakHours: null,
  flush: { litres: 20, minutes: 10, alone: true },
  endUp: 'either',
  cautions: [],
})

/** The firm's own kind of this stage or part; null for a standard medium. Not described: the careful reading. */
export const ownKindOf = ({ media, own }: OfKind): OwnKind | null => (isOwn(media) ? (own ?? unknownKind(media)) : null)

const CAUSE_WORDS: Record<OwnCause, string> = {
  get calendar() {
    return say`time`
  },
  get throughput() {
    return say`litres`
  },
  get pressure() {
    return say`pressure drop or flow loss`
  },
  get breakthrough() {
    return say`chlorine after it`
  },
}

function ownProfile({ name, causes, lifeMonths, ratedLitres, flush, cautions }: OwnKind): MediaProfile {
  const { overCleanKpa, flowShare, chlorineMgL } = USUAL_LIMITS
  return {
    name,
    lifeMonths,
    ratedLitres,
    ratedHours: null,
    flush: flush && { litres: flush.litres, minutes: flush.minutes, kind: flush.alone ? 'alone' : 'own' },
    endsBy: causes.map((cause) => CAUSE_WORDS[cause]).join('; '),
    limits: {
      ...(causes.includes('pressure') ? { overCleanKpa, flowShare } : {}),
      ...(causes.includes('breakthrough') ? { chlorineMgL } : {}),
    },
    watchFor: cautions.join(' '),
  }
}

/** What the catalogue knows of a stage's or part's medium, standard or the firm's own. */
export function profileOf(of: OfKind): MediaProfile {
  const own = ownKindOf(of)
  return own ? ownProfile(own) : MEDIA_PROFILES[of.media as StandardMedium]
}

/** The name people say for a medium; an own kind's id carries it. */
export const mediumName = (media: Medium): string => profileOf({ media }).name
