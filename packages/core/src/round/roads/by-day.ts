import type { LandWays } from './over-land'
import type { Crossing } from './over-water'

/** A span that is over before any day begins: closed all day, where no span at all means always open. */
const NEVER: [number, number][] = [[-2, -1]]

/** Whether a day of the year lies between two, both included; from a later one to an earlier one it is over the turn of the year. */
const within = (day: string, from: string, to: string): boolean => (from <= to ? from <= day && day <= to : day >= from || day <= to)

/** A crossing as it is on an ISO day: by the season's sailings, and open as the tide table has it. */
export function crossingOn({ seasons, tides, ...crossing }: Crossing, day: string): Crossing {
  const season = crossing.kind === 'ferry' ? seasons?.find(({ from, to }) => within(day.slice(5), from, to)) : undefined
  if (season) return { ...crossing, departures: season.departures, returns: season.returns }
  if (crossing.kind !== 'causeway' || !tides) return crossing
  const open = tides[day] ?? []
  return { ...crossing, open: open.length > 0 ? open : NEVER }
}

const isByDay = ({ kind, seasons, tides }: Crossing): boolean =>
  (kind === 'ferry' && (seasons?.length ?? 0) > 0) || (kind === 'causeway' && tides !== undefined)

const known = new WeakMap<LandWays, Map<string, LandWays>>()

/** The ways of an ISO day; days whose crossings are alike share theirs, and what a day does not change is given back as it is. */
export function landOn(land: LandWays, day: string): LandWays {
  const { water } = land
  if (!water?.crossings.some(isByDay)) return land
  const crossings = water.crossings.map((crossing) => crossingOn(crossing, day))
  const key = JSON.stringify(crossings.map(({ departures, returns, open }) => [departures, returns, open]))
  const own = known.get(land) ?? new Map<string, LandWays>()
  known.set(land, own)
  const there = own.get(key)
  if (there) return there
  const made: LandWays = { ...land, water: { ...water, crossings } }
  own.set(key, made)
  return made
}

/** The ways with causeways open as usual, whatever the table of a day says. */
export function usualTidesOf(land: LandWays): LandWays {
  const { water } = land
  if (!water?.crossings.some(({ tides }) => tides !== undefined)) return land
  return { ...land, water: { ...water, crossings: water.crossings.map(({ tides: _, ...crossing }) => crossing) } }
}

/** The ways as they would be at best: every crossing there whenever somebody comes. No day is quicker. */
export function landAtBest(land: LandWays): LandWays {
  const { water } = land
  if (!water?.crossings.some(isByDay)) return land
  const crossings = water.crossings.map(
    ({ seasons: _, tides: _tides, ...crossing }): Crossing => ({ ...crossing, kind: 'bridge', departures: [], returns: [], open: [] }),
  )
  return { ...land, water: { ...water, crossings } }
}
