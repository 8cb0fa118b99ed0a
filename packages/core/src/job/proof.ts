import { caution, say } from '../words'
import type { Instant } from './instants'
import { plusHours } from './instants'

/** When a sample is worth taking, after the flush: no sooner than 5 days, by day 7. */
export const SAMPLE_AFTER_DAYS = 5
export const SAMPLE_BY_DAYS = 7

/** The sample's window from the instant the flush ended. Elapsed days come from instants, never from a wall clock. */
export const sampleWindow = (flushedAt: Instant): { from: Instant; to: Instant } => ({
  from: plusHours(flushedAt, SAMPLE_AFTER_DAYS * 24),
  to: plusHours(flushedAt, SAMPLE_BY_DAYS * 24),
})

export type Found = 'absent' | 'present'
export interface ResultOf {
  totalColiform: Found
  eColi: Found
}
export type ResultVerdict = 'clean' | 'positive' | 'e-coli'

/** E. coli has its own urgency; any coliform is positive. */
export const resultVerdict = ({ totalColiform, eColi }: ResultOf): ResultVerdict =>
  eColi === 'present' ? 'e-coli' : totalColiform === 'present' ? 'positive' : 'clean'

/** What to look for before the job is repeated, the likeliest first. */
export const CAUSES = [
  {
    id: 'cap',
    well: true,
    get text() {
      return say`The well cap and its seal: tight, screened, above ground, no insects`
    },
  },
  {
    id: 'casing',
    well: true,
    get text() {
      return say`The casing and the joint round it: cracks, a dip where water stands, a pit`
    },
  },
  {
    id: 'surface',
    well: true,
    get text() {
      return say`Surface water after rain: colour, a ditch, a drain, animals or a septic field uphill`
    },
  },
  {
    id: 'tank',
    well: false,
    get text() {
      return say`Storage: lid, vent screen, overflow, silt on the floor`
    },
  },
  {
    id: 'bypassed',
    well: false,
    get text() {
      return say`What stood in bypass: softener, filter, a dead leg that nobody ran`
    },
  },
  {
    id: 'backflow',
    well: false,
    get text() {
      return say`A hose left in a trough, a missing check valve, a cross connection`
    },
  },
  {
    id: 'tap',
    well: false,
    get text() {
      return say`The sample itself: tap flamed or wiped, aerator off, run first, bottle kept cold`
    },
  },
] as const
export type CauseId = (typeof CAUSES)[number]['id']

export const causesFor = (well: boolean): readonly (typeof CAUSES)[number][] => (well ? CAUSES : CAUSES.filter((cause) => !cause.well))

/** What comes after a positive result: once more after the cause was looked for; then not by shocks alone. */
export const afterPositive = (earlierPositives: number): 'repeat' | 'continuous' => (earlierPositives > 0 ? 'continuous' : 'repeat')

export const CONTINUOUS_ADVICE = (): string =>
  say`Positive again after a second job: repeating shocks will not hold it. Recommend continuous treatment (ultraviolet, or dosing with contact) with a licensed professional, and an inspection of the source.`
export const E_COLI_ADVICE = (): string =>
  caution`E. coli: tell the household at once, in person or by voice. Boil or bottled water for drinking, teeth, infants and dishes. Tell the health authority where local rules ask for it.`
