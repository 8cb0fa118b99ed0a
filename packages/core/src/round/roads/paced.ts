import { type Pace, paceFactor, paceOfPlaces } from './pace'
import type { Travel } from './travel'

/**
 * Travel as drives that were made say it takes: ways over land within an area are as much longer or shorter as drives there were, by the
 * time of leaving. What goes by a crossing keeps its timetable. `areaOf` names the area of each place, in their order.
 */
export function pacedTravel(travel: Travel, areaOf: readonly string[], pace: Pace): Travel {
  const own = paceOfPlaces(pace, areaOf)
  if (travel.land) return { ...travel, land: { ...travel.land, pace: own } }
  const tables = [{ fromMin: 0, travelMin: travel.travelMin }, ...travel.travelByHour]
  const turns = [...new Set([...tables.map(({ fromMin }) => fromMin), ...pace.fromMin])].sort((a, b) => a - b)
  const at = (minute: number): number[][] => {
    const table = tables.findLast(({ fromMin }) => fromMin <= minute)?.travelMin ?? travel.travelMin
    return table.map((row, from) =>
      row.map((minutes, to) =>
        from === to || areaOf[from] !== areaOf[to] ? minutes : Math.max(1, Math.round(minutes * paceFactor(own, from, minute))),
      ),
    )
  }
  const [first, ...later] = turns
    .map((minute) => ({ fromMin: minute, travelMin: at(minute) }))
    .filter(({ travelMin }, index, all) => index === 0 || JSON.stringify(travelMin) !== JSON.stringify(all[index - 1]?.travelMin))
  return { ...travel, travelMin: first?.travelMin ?? [], travelByHour: later }
}
