import { mulberry32 } from '../random'
import { type Weeks, YearBook } from './book'
import { cheapestOfEach, cheapestWeeks } from './chain'
import { carryOver } from './given'
import type { YearInput, YearPlan, YearVisit } from './types'

export interface YearOptions {
  iterations?: number
  /** A plan to go on from, in this year's weeks: what need not move stays. */
  from?: readonly YearVisit[]
  /** Asked now and then: true ends the search with the best plan so far. */
  stop?: () => boolean
}

/** Steps after which a search of this size ends by itself. */
const ownBudget = (chains: number): number => Math.min(60_000, 400 + 120 * chains)
const EPS = 1e-7
/** How much dearer a step may be at the beginning, as a share of the cost of a chain's like; tried on drawn years from 0.02 to 0.2. */
const HEAT = 0.12
/** Chains taken out together. */
const MOST_TAKEN = 14
/** Prices are shaken by up to this share of themselves, so that what is tried differs. */
const SHAKEN = 0.6
/** A small year is searched from several sides: each costs a moment, and one alone may end in a dell. */
const FEW_CHAINS = 40
const SIDES = 4
/** Of a large year how often it is seen what more or fewer times would cost. */
const OFTEN_APART = 0.1

/** Chains by the site and by the area they are at. */
function neighbours(book: YearBook): { atSite: number[][]; inArea: number[][] } {
  const atSite: number[][] = book.input.sites.map(() => [])
  const inArea: number[][] = book.input.areas.map(() => [])
  for (const [line, { site, area }] of book.lines.entries()) {
    atSite[site]?.push(line)
    inArea[area]?.push(line)
  }
  return { atSite, inArea }
}

/**
 * A plan of the year: each chain in its cheapest weeks beside the others, then chains that hang together (of a site, of an area, of a week)
 * are taken out and put back, kept under a cooling acceptance (large-neighbourhood search; Shaw 1998). Every due is in one of its allowed
 * weeks throughout. The same for an input, a seed and its own budget or `iterations`; `stop` ends it any time with the best so far.
 */
export function planYear(input: YearInput, options: YearOptions = {}): YearPlan {
  const sides = options.iterations === undefined && input.chains.length <= FEW_CHAINS ? SIDES : 1
  let best: YearPlan | null = null
  for (let side = 0; side < sides && !(best && options.stop?.()); side++) {
    const plan = fromOneSide(input, input.seed + side * 7919, options)
    if (best === null || plan.cost.total < best.cost.total) best = plan
  }
  return best ?? fromOneSide(input, input.seed, options)
}

function fromOneSide(input: YearInput, seed: number, { iterations, stop, from }: YearOptions): YearPlan {
  const book = new YearBook(input)
  const random = mulberry32(seed)
  const count = book.lines.length
  const prices = new Float64Array(input.weeks)
  const { atSite, inArea } = neighbours(book)
  /** Puts a chain, which is in no week, into its cheapest ones. What each number of times really costs is seen once it is done so often. */
  const place = (line: number, noise: number, apart: boolean): void => {
    book.prices(line, prices)
    if (noise > 0)
      for (let week = 0; week < prices.length; week++) prices[week] = (prices[week] as number) * (1 + noise * (2 * random() - 1))
    const ways = apart ? cheapestOfEach(book, line, prices) : [cheapestWeeks(book, line, prices)]
    let chosen: Weeks = ways[0] ?? []
    let least = Number.POSITIVE_INFINITY
    for (const weeks of ways.length > 1 ? ways : []) {
      book.put(line, weeks)
      if (book.cost >= least) continue
      least = book.cost
      chosen = weeks
    }
    book.put(line, chosen)
  }
  if (from !== undefined) carryOver(book, from)
  else {
    for (const own of inArea) for (const line of own) place(line, 0, false)
    // Each again, now beside all others.
    for (let line = 0; line < count; line++) {
      book.put(line, [])
      place(line, 0, false)
    }
  }
  let cost = book.cost
  let best = cost
  let kept: Weeks[] = [...book.done]
  const budget = count === 0 ? 0 : (iterations ?? ownBudget(count))
  const scale = (HEAT * cost) / Math.sqrt(Math.max(1, count))
  for (let step = 0; step < budget; step++) {
    if (step % 16 === 0 && stop?.()) break
    const heat = scale * (1 - step / budget) ** 2
    const out = taken(book, Math.floor(random() * count), atSite, inArea, random)
    const was = out.map((line) => book.done[line] as Weeks)
    for (const line of out) book.put(line, [])
    const noise = random() < 0.5 ? SHAKEN * random() : 0
    const apart = count <= FEW_CHAINS || random() < OFTEN_APART
    for (const line of shuffled(out, random)) place(line, noise, apart)
    const now = book.cost
    if (now < cost - EPS || random() < Math.exp(-(now - cost) / Math.max(heat, 1e-9))) {
      cost = now
      if (cost < best - EPS) {
        best = cost
        kept = [...book.done]
      }
    } else for (const [index, line] of out.entries()) book.put(line, was[index] as Weeks)
  }
  for (const [line, weeks] of kept.entries()) if (book.done[line] !== weeks) book.put(line, weeks)
  return book.plan()
}

function shuffled(all: readonly number[], random: () => number): number[] {
  const mixed = [...all]
  for (let i = mixed.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1))
    ;[mixed[i], mixed[j]] = [mixed[j] as number, mixed[i] as number]
  }
  return mixed
}

/** Chains that could trade places: of one site, of one area near in time, or of one week and any area. */
function taken(book: YearBook, seed: number, atSite: number[][], inArea: number[][], random: () => number): number[] {
  const { site, area } = book.lines[seed] as YearBook['lines'][number]
  const kind = random()
  const most = 1 + Math.floor(random() ** 2 * MOST_TAKEN)
  if (kind < 0.25) return [...(atSite[site] as number[])]
  if (kind < 0.35) return [seed]
  const weeks = book.done[seed] as Weeks
  const near = weeks[Math.floor(random() * weeks.length)]
  const apart = (line: number): number =>
    near === undefined
      ? 0
      : (book.done[line] as Weeks).reduce((least, week) => Math.min(least, Math.abs(week - near)), Number.POSITIVE_INFINITY)
  const among = kind < 0.75 ? (inArea[area] as number[]) : sample(book.lines.length, 6 * most, random)
  const nearest = shuffled(among, random)
    .map((line) => [apart(line), line] as const)
    .sort(([a], [b]) => a - b)
    .slice(0, most)
    .map(([, line]) => line)
  return nearest.includes(seed) ? nearest : [seed, ...nearest]
}

const sample = (count: number, most: number, random: () => number): number[] => [
  ...new Set(Array.from({ length: Math.min(count, most) }, () => Math.floor(random() * count))),
]
