import type { RoundInput } from '@evenround/core/round'

type Point = readonly [number, number]
const points = (text: string): Point[] =>
  text
    .trim()
    .split(/\s*,\s*/)
    .map((pair): Point => {
      const [x = Number.NaN, y = Number.NaN] = pair.split(/\s+/).map(Number)
      return [x, y]
    })

/** The 51 places of Christofides and Eilon (1969), as a tour and, from the depot, as a set of loads. */
const EILON_51 =
  points(`37 52, 49 49, 52 64, 20 26, 40 30, 21 47, 17 63, 31 62, 52 33, 51 21, 42 41, 31 32, 5 25, 12 42, 36 16, 52 41, 27 23,
  17 33, 13 13, 57 58, 62 42, 42 57, 16 57, 8 52, 7 38, 27 68, 30 48, 43 67, 58 48, 58 27, 37 69, 38 46, 46 10, 61 33, 62 63, 63 69, 32 22,
  45 35, 59 15, 5 6, 10 17, 21 10, 5 64, 30 15, 39 10, 32 39, 25 32, 25 55, 48 28, 56 37, 30 40`)
/** Loads of the first fifty; the fifty-first is the depot. */
const EILON_LOADS = [
  7, 30, 16, 9, 21, 15, 19, 23, 11, 5, 19, 29, 23, 21, 10, 15, 3, 41, 9, 28, 8, 8, 16, 10, 28, 7, 15, 14, 6, 19, 11, 12, 23, 26, 17, 6, 9,
  15, 14, 7, 27, 13, 11, 16, 10, 5, 25, 17, 18, 10,
]
/** Fifty-two places of a city (Groetschel). */
const CITY_52 =
  points(`565 575, 25 185, 345 750, 945 685, 845 655, 880 660, 25 230, 525 1000, 580 1175, 650 1130, 1605 620, 1220 580, 1465 200,
  1530 5, 845 680, 725 370, 145 665, 415 635, 510 875, 560 365, 300 465, 520 585, 480 415, 835 625, 975 580, 1215 245, 1320 315, 1250 400,
  660 180, 410 250, 420 555, 575 665, 1150 1160, 700 580, 685 595, 685 610, 770 610, 795 645, 720 635, 760 650, 475 960, 95 260, 875 920,
  700 500, 555 815, 830 485, 1170 65, 830 610, 605 625, 595 360, 1340 725, 1740 245`)

const distances = (all: readonly Point[], rounded: boolean): number[][] =>
  all.map(([x, y]) => all.map(([u, w]) => (rounded ? Math.round(Math.hypot(x - u, y - w)) : Math.hypot(x - u, y - w))))

export interface PublishedSet {
  name: string
  input: RoundInput
  /** The proved optimum of a tour, the best known value of a set of routes. */
  best: number
}

interface Limits {
  days: number
  loads?: readonly number[]
  capacity?: number
  longest?: number
  service?: number
}

/** Each route is a day of one technician, who starts and ends at the depot; nothing but the way is priced. */
function routes(
  all: readonly Point[],
  depot: number,
  rounded: boolean,
  { days, loads, capacity, longest, service = 0 }: Limits,
): RoundInput {
  return {
    days: Array.from({ length: days }, (_, day) => `2026-03-${String(day + 1).padStart(2, '0')}`),
    technicians: [
      {
        id: 't',
        base: `p${depot}`,
        fromMin: 0,
        toMin: longest ?? 1e9,
        overtimeMin: 0,
        skills: [],
        daysOff: [],
        ...(capacity === undefined ? {} : { vanKg: capacity }),
      },
    ],
    places: all.map((_, index) => ({ id: `p${index}` })),
    travelMin: distances(all, rounded),
    visits: all.flatMap((_, index) =>
      index === depot
        ? []
        : [
            {
              id: `v${String(index).padStart(3, '0')}`,
              place: `p${index}`,
              serviceMin: service,
              dueDay: 0,
              windowDays: [0, days - 1] as const,
              latePerDay: 0,
              earlyPerDay: 0,
              ...(loads ? { loadKg: loads[index] ?? 0 } : {}),
            },
          ],
    ),
    weights: { overtime: 2, unevenness: 0, change: 0 },
    seed: 1,
  }
}

/** Sets whose data and values are printed in the literature since decades. A wrong figure here would show as a tour under its optimum, or far over it. */
export const PUBLISHED: readonly PublishedSet[] = [
  { name: 'tour of 51 places (Christofides, Eilon), whole distances', input: routes(EILON_51, 0, true, { days: 1 }), best: 426 },
  { name: 'tour of 52 places of a city (Groetschel), whole distances', input: routes(CITY_52, 0, true, { days: 1 }), best: 7542 },
  {
    name: '50 loads on 5 vans of 160 (Christofides, Eilon)',
    input: routes(EILON_51, 50, false, { days: 5, loads: EILON_LOADS, capacity: 160 }),
    best: 524.61,
  },
  {
    name: '50 loads, vans of 160, no day over 200, 10 a stop (Christofides, Mingozzi, Toth)',
    input: routes(EILON_51, 50, false, { days: 6, loads: EILON_LOADS, capacity: 160, longest: 200, service: 10 }),
    best: 555.43,
  },
]
