import { say } from '../words'
import { type MediaLimits, USUAL_LIMITS } from './limits'
import type { StandardMedium } from './names'

/** What the catalogue knows of a medium before a firm or a fitted part says otherwise ("our default"). */
export interface MediaProfile {
  /** Plain trade name, lower case. */
  name: string
  /** Reference calendar life in months: two to four people, clear municipal water. Null when time does not end it. */
  lifeMonths: number | null
  /** Rated throughput in litres for the reference case; null when litres do not end it. */
  ratedLitres: number | null
  /** Rated lamp hours. */
  ratedHours: number | null
  /** What is flushed before service, and why; null when nothing is. */
  flush: {
    litres: number
    minutes: number
    kind: 'to-clear' | 'fines' | 'alone' | 'preservative' | 'cloud' | 'grey' | 'first-litres' | 'own'
  } | null
  /** What ends it, in the order it usually does, in words. */
  endsBy: string
  limits: MediaLimits
  /** What goes wrong with it by hand. */
  watchFor: string
}

/** Mean Gregorian month, so that 12 months are a year. */
const DAYS_PER_MONTH = 365.2425 / 12

/** Months as days, unrounded. */
export const monthsToDays = (months: number): number => months * DAYS_PER_MONTH

/** What a part is rated at that comes with no figures of its own: days rounded to whole ones. */
export const ratedAs = ({ lifeMonths, ratedLitres, ratedHours }: Pick<MediaProfile, 'lifeMonths' | 'ratedLitres' | 'ratedHours'>) => ({
  days: lifeMonths === null ? null : Math.round(monthsToDays(lifeMonths)),
  litres: ratedLitres,
  milliequivalents: null,
  hours: ratedHours,
})

const { overCleanKpa, flowShare, passage, passageRatio, permeateShare, chlorineMgL, intensityPercent } = USUAL_LIMITS

/** Source: our default figures for each medium; every one can be edited by the firm and overridden by the fitted part. */
export const MEDIA_PROFILES: Record<StandardMedium, MediaProfile> = {
  sediment: {
    get name() {
      return say`sediment`
    },
    lifeMonths: 6,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 5, minutes: 2, kind: 'to-clear' },
    get endsBy() {
      return say`pressure drop or flow loss; time`
    },
    limits: { overCleanKpa, flowShare },
    get watchFor() {
      return say`Dirt carried over into the next stage. A washable element: fingers along the pleats, stains are fine, a tear rejects it.`
    },
  },
  'carbon-block': {
    get name() {
      return say`carbon`
    },
    lifeMonths: 12,
    ratedLitres: 2200,
    ratedHours: null,
    flush: { litres: 8, minutes: 10, kind: 'fines' },
    get endsBy() {
      return say`litres by the chlorine they carry; time; chlorine after it`
    },
    limits: { chlorineMgL },
    get watchFor() {
      return say`The end marked “up”. The rubber end gasket that stays behind. Fines never onward into a membrane or a tank.`
    },
  },
  'sediment-carbon': {
    get name() {
      return say`sediment and carbon`
    },
    lifeMonths: 6,
    ratedLitres: 2200,
    ratedHours: null,
    flush: { litres: 8, minutes: 10, kind: 'fines' },
    get endsBy() {
      return say`pressure drop or flow loss; litres by the chlorine they carry; time; chlorine after it`
    },
    limits: { overCleanKpa, flowShare, chlorineMgL },
    get watchFor() {
      return say`It ends by dirt or by chlorine, whichever comes first. Fines never onward into a membrane or a tank.`
    },
  },
  'fluoride-media': {
    get name() {
      return say`fluoride media`
    },
    lifeMonths: 12,
    ratedLitres: 4000,
    ratedHours: null,
    flush: { litres: 20, minutes: 10, kind: 'alone' },
    get endsBy() {
      return say`litres by their fluoride; time`
    },
    limits: {},
    get watchFor() {
      return say`Flushed alone with every later housing empty. The washer end goes toward the head: up under a sink, down on a counter-top set.`
    },
  },
  membrane: {
    get name() {
      return say`membrane`
    },
    lifeMonths: 30,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 8, minutes: 15, kind: 'preservative' },
    get endsBy() {
      return say`TDS passage; loss of production; time`
    },
    limits: { passage, passageRatio, permeateShare },
    get watchFor() {
      return say`The flow restrictor stays in its tube. Thread tape on the drain elbow, none in the bore. O-rings at the spigot.`
    },
  },
  ultrafiltration: {
    get name() {
      return say`ultrafiltration`
    },
    lifeMonths: 12,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 10, minutes: 5, kind: 'first-litres' },
    get endsBy() {
      return say`time, never past its label; pressure drop or flow loss`
    },
    limits: { overCleanKpa, flowShare },
    get watchFor() {
      return say`A barrier against germs: clean hands, new gloves, and what lies behind it stays clean. It must not dry out or freeze.`
    },
  },
  'post-carbon': {
    get name() {
      return say`post carbon`
    },
    lifeMonths: 12,
    ratedLitres: 3000,
    ratedHours: null,
    flush: { litres: 4, minutes: 5, kind: 'grey' },
    get endsBy() {
      return say`time; litres`
    },
    limits: { chlorineMgL },
    get watchFor() {
      return say`The direction of flow. It may stand under tank or line pressure without a shut-off of its own.`
    },
  },
  remineraliser: {
    get name() {
      return say`remineraliser`
    },
    lifeMonths: 12,
    ratedLitres: 4000,
    ratedHours: null,
    flush: { litres: 4, minutes: 5, kind: 'cloud' },
    get endsBy() {
      return say`mass dissolved; litres`
    },
    limits: {},
    get watchFor() {
      return say`Cloudy with air at first: to a jug before the storage line is reconnected. Heavy when new, far lighter when done.`
    },
  },
  'deionising-resin': {
    get name() {
      return say`mixed-bed resin`
    },
    lifeMonths: null,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 10, minutes: 5, kind: 'first-litres' },
    get endsBy() {
      return say`TDS in by litres, over its capacity of about 0.55 eq a litre`
    },
    limits: {},
    get watchFor() {
      return say`Treated equal to untreated means long past. Plate and seal the right way round.`
    },
  },
  'carbon-tank': {
    get name() {
      return say`carbon tank`
    },
    lifeMonths: 60,
    ratedLitres: 1_850_000,
    ratedHours: null,
    flush: { litres: 120, minutes: 33, kind: 'fines' },
    get endsBy() {
      return say`litres by their chlorine; time`
    },
    limits: { chlorineMgL },
    get watchFor() {
      return say`Soaks 48 h before its first backwash, low flow for 72 h after: two trips. The riser stays capped and centred while pouring. A full tank is heavy.`
    },
  },
  'iron-bed': {
    get name() {
      return say`iron and sulphur bed`
    },
    lifeMonths: 72,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 150, minutes: 15, kind: 'to-clear' },
    get endsBy() {
      return say`iron or smell after it; flow loss between backwashes; time`
    },
    limits: {},
    get watchFor() {
      return say`It backwashes by itself: clock, interval, and a drain that takes its flow. Air draw or oxidiser as its label says.`
    },
  },
  'ph-bed': {
    get name() {
      return say`pH-correction bed`
    },
    lifeMonths: 12,
    ratedLitres: null,
    ratedHours: null,
    flush: { litres: 60, minutes: 10, kind: 'cloud' },
    get endsBy() {
      return say`level: it dissolves; pH after it`
    },
    limits: {},
    get watchFor() {
      return say`Topped up to its mark, never over it: the free space above is where it lifts when it backwashes.`
    },
  },
  'fridge-internal': {
    get name() {
      return say`refrigerator cartridge`
    },
    lifeMonths: 6,
    ratedLitres: 1000,
    ratedHours: null,
    flush: { litres: 12, minutes: 8, kind: 'fines' },
    get endsBy() {
      return say`time; litres`
    },
    limits: { chlorineMgL },
    get watchFor() {
      return say`Its reminder is reset by holding; the air filter is a part of its own.`
    },
  },
  'fridge-inline': {
    get name() {
      return say`refrigerator inline`
    },
    lifeMonths: 12,
    ratedLitres: 3000,
    ratedHours: null,
    flush: { litres: 8, minutes: 8, kind: 'fines' },
    get endsBy() {
      return say`time; litres`
    },
    limits: { chlorineMgL },
    get watchFor() {
      return say`Unplug, shut the small valve, follow the arrow. The first 24 h of ice go away.`
    },
  },
  'uv-lamp': {
    get name() {
      return say`ultraviolet lamp`
    },
    lifeMonths: 12,
    ratedLitres: null,
    ratedHours: 9000,
    flush: null,
    get endsBy() {
      return say`hours lit; measured intensity`
    },
    limits: { intensityPercent },
    get watchFor() {
      return say`Power off and confirmed dark before opening. Gloves, no fingerprints. A broken lamp holds mercury.`
    },
  },
  'uv-sleeve': {
    get name() {
      return say`ultraviolet sleeve`
    },
    lifeMonths: 36,
    ratedLitres: null,
    ratedHours: null,
    flush: null,
    get endsBy() {
      return say`intensity after cleaning; time: cleaned at 12 months, changed at 36`
    },
    limits: { intensityPercent },
    get watchFor() {
      return say`Quartz breaks. Descaled with acid, never with chlorine about.`
    },
  },
  softener: {
    get name() {
      return say`softener`
    },
    lifeMonths: null,
    ratedLitres: null,
    ratedHours: null,
    flush: null,
    get endsBy() {
      return say`salt level; hardness after it`
    },
    limits: {},
    get watchFor() {
      return say`In bypass during disinfection.`
    },
  },
  'chlorine-feed': {
    get name() {
      return say`chlorine feed pump`
    },
    lifeMonths: 2,
    ratedLitres: null,
    ratedHours: null,
    flush: null,
    get endsBy() {
      return say`solution used up or stale; its tube worn, about yearly; chlorine at the tap`
    },
    limits: {},
    get watchFor() {
      return say`Only the same product is filled in. Its line is relieved first. No acid on a scaled injector while chlorine is about.`
    },
  },
  'air-filter': {
    get name() {
      return say`air filter`
    },
    lifeMonths: 6,
    ratedLitres: null,
    ratedHours: null,
    flush: null,
    get endsBy() {
      return say`time`
    },
    limits: {},
    get watchFor() {
      return say`Reset apart from the water’s reminder.`
    },
  },
}
