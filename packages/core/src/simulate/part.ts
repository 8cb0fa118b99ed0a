import type { Medium } from '../catalogue/names'
import type { Rng } from './rng'
import { dirtOn, type SimSite, type SimSpread, useOn } from './water'

export type SimCause = 'calendar' | 'throughput' | 'pressure' | 'passage' | 'production' | 'resin' | 'breakthrough' | 'lamp' | 'intensity'
export const SIM_CAUSES: readonly SimCause[] = [
  'calendar',
  'throughput',
  'pressure',
  'passage',
  'production',
  'resin',
  'breakthrough',
  'lamp',
  'intensity',
]

/** How a world differs from the plain one. */
export interface SimWorld {
  /** Every instrument's scatter, times this. */
  noise?: number
  /** What is measured grows with this power of the share of life used. */
  power?: number
  /** What is measured grows by sums and not by factors. */
  additive?: boolean
  /** Share of parts that end at once, at any time of their life: torn, cracked, burnt out. */
  sudden?: number
}

/** A stage as it is sold. */
export interface SimStage {
  media: Medium
  rated: { days?: number; litres?: number; milliequivalents?: number; hours?: number }
  wholeHouse: boolean
  /** How this place treats this kind of part: multiplies every life. Drawn once, nobody is told. */
  siteFactor: number
  world?: SimWorld
}

/** One part in service: what it starts from and how much of each life it has used. */
export interface SimPart {
  fittedDay: number
  /** Lives by cause, in their own units: days, litres, milliequivalents, hours. */
  lives: Partial<Record<SimCause, number>>
  /** Used so far, in the same units. */
  used: Partial<Record<SimCause, number>>
  litres: number
  hours: number
  cleanKpa: number
  cleanFlowLMin: number
  startPassage: number
  startProductLMin: number
  startChlorineMgL: number
  /** Share of its life at which it ends at once; null for one that wears out. */
  breaksAt: number | null
  broken: boolean
}

const CARBON: readonly Medium[] = ['carbon-block', 'post-carbon', 'carbon-tank', 'fridge-internal', 'fridge-inline']
const NOT_BY_PEOPLE: readonly Medium[] = ['carbon-tank', 'softener', 'uv-lamp', 'uv-sleeve', 'air-filter']

const sourceLife = (site: SimSite): number => (site.source === 'municipal' ? 1 : site.source === 'drilled-well' ? 0.67 : 0.5)
const chlorineLife = (site: SimSite): number =>
  site.chlorineMgL === null ? 1 : Math.min(1.5, Math.max(0.33, 1 / Math.max(site.chlorineMgL, 0.01)))
const peopleLife = (people: number): number => (people === 1 ? 1.5 : people >= 5 ? 0.5 : 1)

/** Median lives of the trade's table for this place, before the place's own factor and the part's. */
export function medianLives(site: SimSite, stage: SimStage): Partial<Record<SimCause, number>> {
  const { media, rated, wholeHouse } = stage
  const lives: Partial<Record<SimCause, number>> = {}
  const carbon = CARBON.includes(media)
  if (rated.days !== undefined) {
    const people = wholeHouse || NOT_BY_PEOPLE.includes(media) ? 1 : peopleLife(site.people)
    lives.calendar = rated.days * people * (media === 'sediment' ? sourceLife(site) : 1) * (carbon ? chlorineLife(site) : 1)
    if (carbon) lives.breakthrough = rated.days
    if (media === 'membrane') {
      lives.passage = rated.days
      lives.production = rated.days
    }
    if (media === 'uv-lamp' || media === 'uv-sleeve') lives.intensity = rated.days
    if (media === 'sediment') lives.pressure = rated.days * sourceLife(site) * usualLitres(site, stage)
  }
  if (rated.litres !== undefined) lives.throughput = rated.litres * (carbon ? chlorineLife(site) : 1)
  if (rated.milliequivalents !== undefined) lives.resin = rated.milliequivalents
  if (rated.hours !== undefined) lives.lamp = rated.hours
  return lives
}

/** What the trade expects this many people to draw, litres a day. */
function usualLitres(site: SimSite, { wholeHouse }: SimStage): number {
  return site.people * (wholeHouse ? 130 : 3)
}

const breakOf = (rng: Rng, share: number): number | null => (share > 0 && rng.chance(share) ? rng.between(0.05, 1) : null)

/** A new part: every life by its own chance around the place's median. */
export function newPart(rng: Rng, site: SimSite, stage: SimStage, spread: SimSpread, fittedDay: number): SimPart {
  const lives = medianLives(site, stage)
  for (const cause of SIM_CAUSES) {
    const median = lives[cause]
    if (median !== undefined) lives[cause] = median * stage.siteFactor * rng.spread(spread.unitCv)
  }
  return {
    fittedDay,
    lives,
    used: {},
    litres: 0,
    hours: 0,
    cleanKpa: rng.between(7, 16),
    cleanFlowLMin: rng.between(8, 14),
    startPassage: rng.between(0.03, 0.07),
    startProductLMin: rng.between(0.15, 0.3),
    startChlorineMgL: rng.between(0.006, 0.02),
    breaksAt: breakOf(rng, stage.world?.sudden ?? 0),
    broken: false,
  }
}

/** Litres that pass this stage on a day. */
export function litresOn(rng: Rng | null, site: SimSite, stage: SimStage, day: number): number {
  const mean = stage.wholeHouse ? site.houseLitresPerDay : site.tapLitresPerDay
  return mean * useOn(site, day) * (rng === null ? 1 : Math.max(0, 1 + 0.45 * rng.normal()))
}

/** One day in service. `hurt` is how many times faster than usual everything wears (dirt that got past the stage before). */
export function liveDay(rng: Rng | null, site: SimSite, stage: SimStage, part: SimPart, day: number, hurt = 1): void {
  const litres = litresOn(rng, site, stage, day)
  part.litres += litres
  part.hours += 24
  const { used } = part
  const add = (cause: SimCause, amount: number): void => {
    if (part.lives[cause] !== undefined) used[cause] = (used[cause] ?? 0) + amount * hurt
  }
  add('calendar', 1)
  add('throughput', litres)
  add('pressure', litres * dirtOn(site, day))
  add('passage', 1)
  add('production', 1)
  add('resin', (litres * site.feedTdsMgL) / 50)
  add('breakthrough', 1)
  add('lamp', 24)
  add('intensity', 1)
  if (part.breaksAt !== null && lifeUsed(part) >= part.breaksAt) part.broken = true
}

/** Share of one cause's life used, 0 for a cause the part does not have. */
export function shareUsed(part: SimPart, cause: SimCause): number {
  const life = part.lives[cause]
  return life === undefined ? 0 : (part.used[cause] ?? 0) / life
}

/** Share of life used: the largest over the causes (those of one school, or all). At 1 the part is done. */
export function lifeUsed(part: SimPart, causes: readonly SimCause[] = SIM_CAUSES): number {
  let most = part.broken ? 1 : 0
  for (const cause of causes) most = Math.max(most, shareUsed(part, cause))
  return most
}
