import type { Rng } from './rng'

export type SimSource = 'municipal' | 'drilled-well' | 'shallow-well' | 'surface' | 'roof'

/** A stretch of days with a share of the usual use: closed weeks, guests. Days count from the world's first. */
export interface SimStay {
  from: number
  to: number
  share: number
}

/** A place as it really is, which nobody is told. */
export interface SimSite {
  people: number
  source: SimSource
  /** True mean draw at a drinking-water tap and in the whole house, litres a day. */
  tapLitresPerDay: number
  houseLitresPerDay: number
  feedTdsMgL: number
  /** Null where the water is not chlorinated. */
  chlorineMgL: number | null
  /** Known to the firm: in its calendar. */
  closed: SimStay[]
  /** Known to nobody. */
  guests: SimStay[]
  /** Days on which the water runs dirty, and how many times its usual load. */
  dirty: SimStay[]
  /** Share by which summer draws more than winter. */
  summer: number
}

export interface SimSpread {
  siteCv: number
  unitCv: number
  usageCv: number
}
export const USUAL_SPREAD: SimSpread = { siteCv: 0.35, unitCv: 0.25, usageCv: 0.5 }

const SOURCES: readonly SimSource[] = ['municipal', 'drilled-well', 'shallow-well', 'surface', 'roof']
const TDS: Record<SimSource, number> = { municipal: 190, 'drilled-well': 340, 'shallow-well': 240, surface: 110, roof: 40 }

/** A place drawn at random, for `days` days. */
export function drawSite(rng: Rng, spread: SimSpread, days: number, own: Partial<SimSite> = {}): SimSite {
  const people = own.people ?? rng.pick([1, 2, 3, 4, 5, 7], [2, 4, 3, 3, 2, 1])
  const source = own.source ?? rng.pick(SOURCES, [6, 2, 1, 0.5, 0.5])
  const draw = rng.spread(spread.usageCv)
  const closed: SimStay[] = []
  if (rng.chance(0.2)) {
    const first = Math.floor(rng.between(0, 365))
    const weeks = Math.floor(rng.between(3, 18))
    for (let from = first; from < days; from += 365) closed.push({ from, to: from + weeks * 7, share: rng.pick([0, 0.1, 0.3]) })
  }
  const guests: SimStay[] = []
  const dirty: SimStay[] = []
  for (let year = 0; year * 365 < days; year++) {
    for (let i = 0; i < 3; i++) {
      const from = year * 365 + Math.floor(rng.between(0, 365))
      if (rng.chance(0.5)) guests.push({ from, to: from + Math.floor(rng.between(2, 12)), share: rng.between(1.3, 2.2) })
    }
    const spells = source === 'municipal' ? 1 : 2
    for (let i = 0; i < spells; i++) {
      const from = year * 365 + Math.floor(rng.between(0, 365))
      if (rng.chance(0.4)) dirty.push({ from, to: from + Math.floor(rng.between(3, 15)), share: rng.between(1.5, 3) })
    }
  }
  return {
    people,
    source,
    tapLitresPerDay: 3 * people * draw,
    houseLitresPerDay: 130 * people * draw,
    feedTdsMgL: TDS[source] * rng.spread(0.25),
    chlorineMgL: source === 'municipal' ? Math.round(10 * rng.spread(0.5) * 0.8) / 10 : null,
    closed,
    guests,
    dirty,
    summer: rng.between(0, 0.15),
    ...own,
  }
}

const shareOn = (stays: readonly SimStay[], day: number): number =>
  stays.reduce((share, stay) => (stay.from <= day && day < stay.to ? share * stay.share : share), 1)

/** Use on a day as a share of the usual: closed weeks, guests, seasons (day 0 is a first of January). */
export function useOn(site: SimSite, day: number): number {
  const season = 1 + site.summer * Math.sin((2 * Math.PI * (day - 105)) / 365.25)
  return shareOn(site.closed, day) * shareOn(site.guests, day) * season
}

/** Dirt carried by each litre, as a multiple of the usual. */
export const dirtOn = (site: SimSite, day: number): number => shareOn(site.dirty, day)

/** Temperature of the cold water, °C. */
export const coldWaterC = (day: number): number => 11 + 5 * Math.sin((2 * Math.PI * (day - 125)) / 365.25)
