import { mulberry32 } from '../../random'
import { addDays } from '../../units'
import type { RoundInput, RoundVisit } from '../types'

export interface Drawn {
  visits: number
  days: number
  technicians: number
  /** Shares of visits that have opening hours, skills, a promise, a pin, a link. */
  rich?: boolean
  byHour?: boolean
}

/** A made-up round for tests and benches: places on a square, roads as the crow flies at 50 km/h, due days spread over the stretch. */
export function drawRound(seed: number, { visits, days, technicians, rich = false, byHour = false }: Drawn): RoundInput {
  const random = mulberry32(seed)
  const between = (from: number, to: number): number => from + random() * (to - from)
  const whole = (from: number, to: number): number => Math.floor(between(from, to + 1))
  const spots = Array.from({ length: visits + technicians }, () => [between(0, 40), between(0, 40)] as const)
  const road = (factor: number): number[][] =>
    spots.map(([x, y]) => spots.map(([u, w]) => Math.round(Math.hypot(x - u, y - w) * 1.2 * factor * 100) / 100))
  const drawn = Array.from({ length: visits }, (_, v): RoundVisit => {
    const due = whole(0, days - 1)
    const slack = whole(2, Math.max(2, Math.floor(days / 4)))
    const earliest = Math.max(0, due - slack)
    const latest = Math.min(days - 1, due + slack)
    const more: Partial<RoundVisit> = {}
    if (rich && random() < 0.3)
      more.open =
        random() < 0.5
          ? [[480, 720]]
          : [
              [480, 640],
              [780, 960],
            ]
    if (rich && random() < 0.15) more.skills = ['wells']
    if (rich && random() < 0.2) more.promisedDay = whole(earliest, latest)
    if (rich && random() < 0.05) more.pinnedDay = whole(earliest, latest)
    if (rich && random() < 0.2) more.closedDays = [whole(0, days - 1)]
    if (rich) more.loadKg = whole(1, 20)
    if (rich && v > 0 && random() < 0.1) more.after = { visit: `v${v - 1}`, minGapH: 24, maxGapH: 24 * Math.max(2, days) }
    return {
      id: `v${v}`,
      place: `p${technicians + v}`,
      serviceMin: whole(20, 90),
      dueDay: due,
      windowDays: more.after ? [0, days - 1] : [earliest, latest],
      latePerDay: whole(2, 15),
      earlyPerDay: whole(1, 4),
      ...more,
    }
  })
  return {
    days: Array.from({ length: days }, (_, day) => addDays('2026-03-02', day + 2 * Math.floor(day / 5))),
    technicians: Array.from({ length: technicians }, (_, t) => ({
      id: `t${t}`,
      base: `p${t}`,
      fromMin: 480,
      toMin: 960,
      overtimeMin: 60,
      skills: t === 0 ? ['wells'] : [],
      daysOff: rich && days > 6 ? [whole(0, days - 1)] : [],
      ...(rich ? { vanKg: 150 } : {}),
      ...(rich && t === 1 ? { levelMin: 300 } : {}),
    })),
    places: spots.map((_, index) => ({ id: `p${index}` })),
    travelMin: road(1),
    ...(byHour
      ? {
          travelByHour: [
            { fromMin: 480, travelMin: road(1.6) },
            { fromMin: 570, travelMin: road(1) },
            { fromMin: 900, travelMin: road(1.4) },
          ],
        }
      : {}),
    visits: drawn,
    weights: { overtime: 2, unevenness: 1, change: 30 },
    seed,
  }
}
