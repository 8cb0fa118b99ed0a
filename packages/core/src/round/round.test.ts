import fc from 'fast-check'
import {
  fromPlan,
  lowerBound,
  planOfSolution,
  planRound,
  problemOf,
  type RoundInput,
  type RoundVisit,
  roundCost,
  Solution,
  search,
  unplannedOf,
  whyThisDay,
} from '.'
import { drawRound } from './drawn'

const WEIGHTS = { overtime: 2, unevenness: 1, change: 30 }
const visit = (id: string, place: string, more: Partial<RoundVisit> = {}): RoundVisit => ({
  id,
  place,
  serviceMin: 30,
  dueDay: 0,
  windowDays: [0, 1],
  latePerDay: 5,
  earlyPerDay: 1,
  ...more,
})
/** Base `o`; a and b 10 and 20 minutes off on one road. */
const small = (visits: RoundVisit[], more: Partial<RoundInput> = {}): RoundInput => ({
  days: ['2026-03-02', '2026-03-03'],
  technicians: [{ id: 't', base: 'o', fromMin: 480, toMin: 960, overtimeMin: 60, skills: [], daysOff: [] }],
  places: [{ id: 'o' }, { id: 'a' }, { id: 'b' }],
  travelMin: [
    [0, 10, 20],
    [10, 0, 10],
    [20, 10, 0],
  ],
  visits,
  weights: WEIGHTS,
  seed: 1,
  ...more,
})
const stop = (id: string, arriveMin: number, startMin = arriveMin, service = 30) => ({
  visit: id,
  arriveMin,
  startMin,
  leaveMin: startMin + service,
})
const rulesOf = (input: RoundInput, ...days: { day: number; stops: ReturnType<typeof stop>[] }[]): string[] =>
  roundCost(input, { days: days.map((one) => ({ technician: 't', ...one })) }).broken.map(({ rule }) => rule)

describe('what a plan costs, by hand', () => {
  const input = small([visit('x', 'a'), visit('y', 'b', { dueDay: 1, promisedDay: 1 })])
  test('travel, lateness, a broken promise, and days against their level', () => {
    // Both on day 0: 10 + 10 + 20 minutes of road, 60 of work; level 50: (100 − 50)²/50 + (0 − 50)²/50 = 100. y is a day early.
    const { cost, broken } = roundCost(input, { days: [{ technician: 't', day: 0, stops: [stop('x', 490), stop('y', 530)] }] })
    expect(broken).toEqual([])
    expect(cost).toEqual({ travel: 40, overtime: 0, late: 0, early: 1, unevenness: 100, change: 30, unplanned: 0, total: 171 })
  })
  test('one a day is even but for the road: 50 and 70 about 60', () => {
    const { cost } = roundCost(input, {
      days: [
        { technician: 't', day: 0, stops: [stop('x', 490)] },
        { technician: 't', day: 1, stops: [stop('y', 500)] },
      ],
    })
    expect(cost).toMatchObject({ travel: 60, early: 0, change: 0, unevenness: 200 / 60 })
    expect(cost.total).toBeCloseTo(60 + 200 / 60, 9)
  })
  test('what is left out costs ten thousand; overtime twice its minutes', () => {
    const { cost } = roundCost(input, { days: [{ technician: 't', day: 0, stops: [stop('x', 490, 930)] }] })
    // Left at 960, back at 970: ten minutes over.
    expect(cost).toMatchObject({ unplanned: 10_000, overtime: 20 })
  })
  test('a level of one’s own: 50 and 70 about 100', () => {
    const own = { ...input, technicians: input.technicians.map((one) => ({ ...one, levelMin: 100 })) }
    const { cost } = roundCost(own, {
      days: [
        { technician: 't', day: 0, stops: [stop('x', 490)] },
        { technician: 't', day: 1, stops: [stop('y', 500)] },
      ],
    })
    // (50 − 100)²/100 + (70 − 100)²/100.
    expect(cost.unevenness).toBe(25 + 9)
  })
  test('days off count for no level', () => {
    const off = small([visit('x', 'a')], {
      technicians: [{ id: 't', base: 'o', fromMin: 480, toMin: 960, overtimeMin: 0, skills: [], daysOff: [1] }],
    })
    expect(roundCost(off, { days: [{ technician: 't', day: 0, stops: [stop('x', 490)] }] }).cost.unevenness).toBe(0)
  })
  test('roads by the hour: the drive is the cheapest that is there in time', () => {
    const slow = [
      [0, 30, 30],
      [30, 0, 30],
      [30, 30, 0],
    ]
    const rush = small([visit('x', 'a')], {
      travelByHour: [
        { fromMin: 480, travelMin: slow },
        { fromMin: 540, travelMin: small([]).travelMin },
      ],
    })
    const at = (arriveMin: number) => roundCost(rush, { days: [{ technician: 't', day: 0, stops: [stop('x', arriveMin)] }] })
    expect(at(510).cost.travel).toBe(30 + 10)
    expect(at(550).cost.travel).toBe(10 + 10)
    expect(at(505).broken.map(({ rule }) => rule)).toEqual(['travel'])
  })
})

test.each<[string, RoundInput, { day: number; stops: ReturnType<typeof stop>[] }[]]>([
  ['travel', small([visit('x', 'a')]), [{ day: 0, stops: [stop('x', 489)] }]],
  ['start', small([visit('x', 'a')]), [{ day: 0, stops: [stop('x', 500, 495)] }]],
  ['service', small([visit('x', 'a')]), [{ day: 0, stops: [stop('x', 490, 490, 29)] }]],
  ['open', small([visit('x', 'a', { open: [[480, 515]] })]), [{ day: 0, stops: [stop('x', 490)] }]],
  ['window', small([visit('x', 'a', { windowDays: [1, 1] })]), [{ day: 0, stops: [stop('x', 490)] }]],
  ['closed', small([visit('x', 'a', { closedDays: [0] })]), [{ day: 0, stops: [stop('x', 490)] }]],
  ['pinned', small([visit('x', 'a', { pinnedDay: 1 })]), [{ day: 0, stops: [stop('x', 490)] }]],
  ['skills', small([visit('x', 'a', { skills: ['wells'] })]), [{ day: 0, stops: [stop('x', 490)] }]],
  ['overtime', small([visit('x', 'a', { serviceMin: 541 })]), [{ day: 0, stops: [stop('x', 490, 490, 541)] }]],
  ['visit', small([visit('x', 'a')]), [{ day: 0, stops: [stop('z', 490)] }]],
  ['day', small([visit('x', 'a')]), [{ day: 2, stops: [stop('x', 490)] }]],
  [
    'twice',
    small([visit('x', 'a'), visit('y', 'b')]),
    [
      { day: 0, stops: [stop('x', 490)] },
      { day: 0, stops: [stop('y', 600)] },
    ],
  ],
  [
    'again',
    small([visit('x', 'a')]),
    [
      { day: 0, stops: [stop('x', 490)] },
      { day: 1, stops: [stop('x', 490)] },
    ],
  ],
  [
    'link',
    small([visit('x', 'a'), visit('y', 'b', { after: { visit: 'x', minGapH: 24, maxGapH: 48 } })]),
    [{ day: 0, stops: [stop('x', 490), stop('y', 530)] }],
  ],
  [
    'link',
    small([visit('x', 'a'), visit('y', 'b', { after: { visit: 'x', minGapH: 0, maxGapH: 48 } })]),
    [{ day: 0, stops: [stop('y', 500)] }],
  ],
])('a plan that breaks %s is told so, and still priced', (rule, input, days) => {
  expect(rulesOf(input, ...days)).toContain(rule)
})

const DRAWS = fc.record({
  seed: fc.integer({ min: 1, max: 1e6 }),
  visits: fc.integer({ min: 1, max: 14 }),
  days: fc.integer({ min: 1, max: 6 }),
  technicians: fc.integer({ min: 1, max: 2 }),
  byHour: fc.boolean(),
})
const drawn = ({ seed, ...shape }: { seed: number; visits: number; days: number; technicians: number; byHour: boolean }): RoundInput =>
  drawRound(seed, { ...shape, rich: true })

test('a plan never breaks a hard rule, names exactly what it leaves out, and adds up', () => {
  fc.assert(
    fc.property(DRAWS, (shape) => {
      const input = drawn(shape)
      const plan = planRound(input, { iterations: 60 })
      const { cost, broken } = roundCost(input, plan)
      expect(broken).toEqual([])
      const planned = plan.days.flatMap(({ stops }) => stops.map(({ visit: id }) => id))
      expect([...planned, ...plan.unplanned.map(({ visit: id }) => id)].sort()).toEqual(input.visits.map(({ id }) => id).sort())
      expect(plan.unplanned.every(({ why }) => why.length > 0)).toBe(true)
      expect(plan.cost).toEqual(cost)
      const { total, ...parts } = cost
      expect(Object.values(parts).reduce((sum, part) => sum + part, 0)).toBeCloseTo(total, 6)
    }),
    { numRuns: 30 },
  )
})

test('the running price equals the full price after any sequence of moves', () => {
  fc.assert(
    fc.property(DRAWS, fc.array(fc.tuple(fc.nat(), fc.nat(), fc.nat()), { maxLength: 60 }), (shape, moves) => {
      const input = drawn(shape)
      const s = new Solution(problemOf(input))
      for (const [a, b, c] of moves) {
        const v = a % input.visits.length
        if ((s.where[v] as number) >= 0) s.remove(v)
        else {
          const route = b % s.routes.length
          s.insert(v, route, c % ((s.routes[route] as number[]).length + 1))
        }
      }
      const days = s.routes.flatMap((sequence, route) =>
        sequence.length === 0
          ? []
          : [
              {
                technician: input.technicians[s.technicianOf(route)]?.id ?? '',
                day: s.dayOf(route),
                stops: sequence.map((v) => ({
                  visit: input.visits[v]?.id ?? '',
                  arriveMin: s.arrive[v] as number,
                  startMin: s.start[v] as number,
                  leaveMin: s.leave[v] as number,
                })),
              },
            ],
      )
      const { cost, broken } = roundCost(input, { days })
      expect(broken).toEqual([])
      expect(s.cost).toBeCloseTo(cost.total, 5)
      const before = s.snapshot()
      const cost0 = s.cost
      search(problemOf(input), 1, { iterations: 0 })
      for (const v of input.visits.keys()) s.remove(v)
      s.restore(before)
      expect(s.cost).toBeCloseTo(cost0, 5)
    }),
    { numRuns: 50 },
  )
})

/** Every order on every day, with the earliest times: the truth for a few visits on fixed roads. */
function bruteForce(input: RoundInput): number {
  const p = problemOf(input)
  let best = Number.POSITIVE_INFINITY
  const s = new Solution(p)
  const place = (v: number): void => {
    if (v === p.nVisits) {
      best = Math.min(best, s.cost)
      return
    }
    for (let route = 0; route < s.routes.length; route++) {
      for (let at = 0; at <= (s.routes[route] as number[]).length; at++) {
        if (!s.insert(v, route, at)) continue
        place(v + 1)
        s.remove(v)
      }
    }
    place(v + 1)
  }
  place(0)
  return best
}

test('small rounds reach the best there is', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 1, max: 5 }), (seed, visits) => {
      // Links apart: inserting in one order only would miss some of theirs.
      const input = drawRound(seed, { visits, days: 2, technicians: 1 })
      expect(planRound(input).cost.total).toBeCloseTo(bruteForce(input), 5)
    }),
    { numRuns: 6 },
  )
})

test('the same input and seed give the same plan; more iterations never a dearer one', () => {
  const input = drawRound(7, { visits: 18, days: 5, technicians: 1, rich: true })
  expect(planRound(input, { iterations: 80 })).toEqual(planRound(input, { iterations: 80 }))
  const first = planRound(input, { iterations: 0 }).cost.total
  expect(planRound(input, { iterations: 80 }).cost.total).toBeLessThanOrEqual(first + 1e-6)
})

test('visits, technicians and places in another order: the same cost; another seed within two hundredths', () => {
  const input = drawRound(3, { visits: 11, days: 3, technicians: 2 })
  const turn = <T>(all: readonly T[]): T[] => [...all].reverse()
  const turned = {
    ...input,
    visits: turn(input.visits),
    technicians: turn(input.technicians),
    places: turn(input.places),
    travelMin: turn(input.travelMin).map((row) => turn(row)),
  }
  const iterations = 1500
  const one = planRound(input, { iterations }).cost.total
  expect(planRound(turned, { iterations }).cost.total).toBeCloseTo(one, 6)
  expect(Math.abs(planRound({ ...input, seed: 99 }, { iterations }).cost.total / one - 1)).toBeLessThan(0.02)
})

test('a search that is told to stop gives the best it has, whole', () => {
  const input = drawRound(9, { visits: 20, days: 5, technicians: 1, rich: true })
  let asked = 0
  const plan = planRound(input, { stop: () => ++asked > 2 })
  expect(asked).toBeLessThan(6)
  expect(roundCost(input, plan).broken).toEqual([])
})

describe('links', () => {
  const soak = { visit: 'x', minGapH: 24, maxGapH: 25 }
  test('the earlier waits so that the greatest gap is kept', () => {
    // y opens at noon: x must end no sooner than eleven the day before.
    const input = small([visit('x', 'a'), visit('y', 'b', { open: [[720, 800]], windowDays: [1, 1], after: soak })])
    const plan = planRound(input)
    expect(plan.unplanned).toEqual([])
    const x = plan.days.find(({ day }) => day === 0)?.stops[0]
    expect(x?.leaveMin).toBeGreaterThanOrEqual(720 - 60)
    expect(roundCost(input, plan).broken).toEqual([])
  })
  test('what cannot follow says what it follows', () => {
    const input = small([visit('x', 'a', { skills: ['wells'] }), visit('y', 'b', { after: soak })])
    expect(planRound(input).unplanned).toEqual([
      { visit: 'x', reason: 'skill', why: 'nobody who works in these weeks has the skill it needs: wells' },
      { visit: 'y', reason: 'after', why: 'x, which it follows, has no day' },
    ])
  })
})

describe('why this day', () => {
  test('by hand: a day later is a day late and a road of its own', () => {
    // x and y both due on day 0; apart they cost 60 of road, together 40, but two days are even.
    const input = small([visit('x', 'a', { latePerDay: 100 }), visit('y', 'b', { latePerDay: 100 })], {
      weights: { ...WEIGHTS, unevenness: 0 },
    })
    const s = search(problemOf(input), 1)
    const why = whyThisDay(s, 1)
    expect(why.now).toMatchObject({ day: 0, travel: 20, late: 0, total: 20 })
    expect(why.dayAfter).toMatchObject({ day: 1, travel: 40, late: 100, total: 140 })
    expect(why.runnerUp).toEqual(why.dayAfter)
    expect(why.dayBefore).toBeNull()
  })

  /** The cheapest place of a day, every one of them tried. */
  function cheapest(s: Solution, v: number, day: number): number {
    let best = Number.POSITIVE_INFINITY
    for (let route = day; route < s.routes.length; route += s.p.nDays)
      for (let at = 0; at <= (s.routes[route] as number[]).length; at++) {
        if (!s.insert(v, route, at)) continue
        best = Math.min(best, s.cost)
        s.remove(v)
      }
    return best
  }

  test('what it says of each day is what moving there really costs, and the plan is left as it was', () => {
    fc.assert(
      fc.property(DRAWS, fc.nat(), fc.boolean(), (shape, pick, rich) => {
        const input = drawRound(shape.seed, { ...shape, rich })
        const s = search(problemOf(input), 1, { iterations: 20 })
        const v = pick % input.visits.length
        const before = planOfSolution(s)
        const why = whyThisDay(s, v)
        expect(planOfSolution(s)).toEqual(before)
        // What others follow is priced with them in their places: there the days are only compared.
        if (why.now === null || (s.p.succ[v] as number[]).length > 0) return
        const whole = s.cost
        s.remove(v)
        for (const { day, total } of why.days) {
          if (day === why.now.day) continue
          const real = cheapest(s, v, day) - whole
          if (rich) expect(total - why.now.total).toBeGreaterThanOrEqual(real - 1e-5)
          else expect(total - why.now.total).toBeCloseTo(real, 5)
        }
      }),
      { numRuns: 25 },
    )
  })
})

test('after a sick day the plan goes on with few moves: who is promised stays where that is possible', () => {
  const input = drawRound(11, { visits: 20, days: 5, technicians: 2 })
  const plan = planRound(input, { iterations: 300 })
  const dayOf = new Map(plan.days.flatMap(({ day, stops }) => stops.map(({ visit: id }) => [id, day] as const)))
  const promised = input.visits.map((one) => ({ ...one, promisedDay: dayOf.get(one.id) as number }))
  const sick: RoundInput = {
    ...input,
    visits: promised,
    technicians: input.technicians.map((one, t) => (t === 0 ? { ...one, daysOff: [2] } : one)),
  }
  const again = planRound(sick, { from: plan, iterations: 300 })
  const hit = plan.days.find(({ technician, day }) => technician === 't0' && day === 2)?.stops.length ?? 0
  const movedDays = again.days.flatMap(({ day, stops }) => stops.filter(({ visit: id }) => dayOf.get(id) !== day))
  expect(again.unplanned).toEqual([])
  expect(hit).toBeGreaterThan(0)
  expect(movedDays.length).toBeLessThanOrEqual(hit + 1)
  expect(roundCost(sick, again).broken).toEqual([])
})

test('a plan put back into its own problem costs what it cost', () => {
  const input = drawRound(13, { visits: 20, days: 5, technicians: 2, rich: true })
  const plan = planRound(input, { iterations: 50 })
  expect(fromPlan(problemOf(input), plan).cost).toBeCloseTo(plan.cost.total, 5)
})

describe('the lower bound', () => {
  test('by hand: half of the nearest way in and out, and the cheapest day', () => {
    // a is nearest to o and b alike, 10 minutes; b is nearest to a, 10. y may only stand a day late: 5.
    const input = small([visit('x', 'a'), visit('y', 'b', { dueDay: 0, windowDays: [1, 1] })])
    expect(lowerBound(input)).toBe(10 + 10 + 5)
    expect(lowerBound(small([visit('x', 'a', { skills: ['wells'] })]))).toBe(10_000)
  })
  test('no plan is under it', () => {
    for (let seed = 1; seed <= 30; seed++) {
      const input = drawRound(seed, { visits: 14, days: 4, technicians: 2, rich: true, byHour: seed % 2 === 0 })
      const plan = planRound(input, { iterations: 60 })
      expect(plan.lowerBound).toBeLessThanOrEqual(plan.cost.total)
      expect(plan.lowerBound).toBeGreaterThan(0)
    }
  })
})

describe('a visit without a day says which of the reasons it is', () => {
  const reasonOf = (visits: RoundVisit[], more: Partial<RoundInput> = {}) =>
    planRound(small(visits, more)).unplanned.map(({ visit: id, reason }) => [id, reason])
  test('closed, pinned to a closed day, nobody at work, no room', () => {
    expect(reasonOf([visit('x', 'a', { windowDays: [0, 1], closedDays: [0, 1] })])).toEqual([['x', 'shut']])
    expect(reasonOf([visit('x', 'a', { windowDays: [0, 1], closedDays: [0], pinnedDay: 0 })])).toEqual([['x', 'pin']])
    expect(
      reasonOf([visit('x', 'a', { windowDays: [0, 0] })], { technicians: small([]).technicians.map((one) => ({ ...one, daysOff: [0] })) }),
    ).toEqual([['x', 'off']])
    expect(reasonOf([visit('x', 'a', { serviceMin: 2000 })])).toEqual([['x', 'full']])
  })
  test('a gap that no day keeps', () => {
    const after = { visit: 'x', minGapH: 24 * 30, maxGapH: 24 * 31 }
    expect(reasonOf([visit('x', 'a'), visit('y', 'b', { after })])).toEqual([['y', 'gap']])
  })
  test('what only nobody has planned yet is told apart from what cannot be', () => {
    const input = small([visit('x', 'a')])
    expect(unplannedOf(fromPlan(problemOf(input), { days: [] }))).toMatchObject([{ visit: 'x', reason: 'free' }])
  })
})
