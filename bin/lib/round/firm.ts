import type { RoundSet } from '@evenround/contract/rounds'
import { mulberry32 } from '@evenround/core/random'
import { addDays } from '@evenround/core/units'

/** A made-up firm of forty technicians: places of a land of 200 km square, gathered round the bases; every system due once in its window. */
export function drawFirm(id: string, newId: () => string, technicianIds: readonly string[], systems: number): RoundSet {
  const random = mulberry32(42)
  const between = (from: number, to: number): number => from + random() * (to - from)
  const PLACES_A_BASE = 36
  const bases = technicianIds.map(() => [between(0, 200), between(0, 200)] as const)
  const spots = bases.flatMap(([x, y]) => [
    [x, y] as const,
    ...Array.from({ length: PLACES_A_BASE }, () => [x + between(-14, 14), y + between(-14, 14)] as const),
  ])
  const places = spots.map((_, index) => ({ id: `p${index}`, name: `Place ${index}`, island: 'Mainland', lon: 0, lat: 0 }))
  const travelMin = spots.map(([x, y]) => spots.map(([u, w]) => Math.round((Math.hypot(x - u, y - w) * 1.3 * 60) / 50)))
  const days = Array.from({ length: 65 }, (_, day) => addDays('2026-03-02', day + 2 * Math.floor(day / 5)))
  const visits: RoundSet['visits'] = []
  // A visit has two systems on the average, and every other one falls into the quarter.
  for (let left = systems / 2; left > 0; ) {
    const own = 1 + Math.floor(random() * 3)
    left -= own
    const due = Math.floor(between(0, 65))
    const slack = Math.floor(between(6, 18))
    const visitId = newId()
    visits.push({
      id: visitId,
      kind: 'due',
      siteId: visitId,
      siteName: 'House',
      village: 'Place',
      island: 'Mainland',
      place: `p${Math.floor(random() * spots.length)}`,
      serviceMin: 10 + 24 * own,
      dueDay: due,
      windowDays: [Math.max(0, due - slack), Math.min(64, due + slack)],
      latePerDay: between(1, 8),
      earlyPerDay: between(0.3, 2),
      open: random() < 0.2 ? [[480, 720]] : null,
      closedDays: [],
      skills: random() < 0.1 ? ['wells'] : [],
      loadKg: own,
      pinnedDay: null,
      promisedDay: null,
      promised: false,
      promise: null,
      stops: [],
    })
  }
  return {
    id,
    madeAt: '2026-03-01T12:00:00.000Z',
    today: '2026-03-01',
    days,
    technicians: technicianIds.map((technician, index) => ({
      id: technician,
      name: `T${index}`,
      van: null,
      base: `p${index * (PLACES_A_BASE + 1)}`,
      fromMin: 480,
      toMin: 960,
      overtimeMin: 60,
      skills: index % 3 === 0 ? ['wells'] : [],
      daysOff: [],
      vanKg: 300,
      levelMin: 300,
    })),
    places,
    travel: { places: places.map((place) => place.id), travelMin, travelByHour: [], sails: [] },
    visits,
    leftOut: [],
    terms: { hourMinor: 4800, accessMin: 8, setupMin: 14, unevenness: 1, change: 30 },
    year: [],
  }
}
