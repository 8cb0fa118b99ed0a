import fc from 'fast-check'
import { FIRM_YEAR_WEIGHTS, type GivenYear, planYear, workingMin, type YearChain, type YearInput, yearCost } from '.'
import { allowedWeeks } from './allowed'
import { drawYear } from './drawn'

const WEIGHTS = { travel: 1, unevenness: 1, overload: 10 }
const chain = (id: string, site: string, more: Partial<YearChain> = {}): YearChain => ({
  id,
  site,
  workMin: 60,
  every: 10,
  last: -5,
  early: 2,
  late: 3,
  earlyPerWeek: 4,
  latePerWeek: 7,
  ...more,
})
/** Thirteen weeks of 600 minutes; one area an hour off, two sites there. */
const small = (chains: YearChain[], more: Partial<YearInput> = {}): YearInput => ({
  weeks: 13,
  capacityMin: Array(13).fill(600),
  dayMin: 480,
  areas: [{ id: 'north', roundTripMin: 60, betweenMin: 10 }],
  sites: [
    { id: 'a', area: 'north', visitMin: 20 },
    { id: 'b', area: 'north', visitMin: 20 },
  ],
  chains,
  weights: WEIGHTS,
  seed: 1,
  ...more,
})
const rulesOf = (input: YearInput, visits: GivenYear['visits']): string[] => yearCost(input, { visits }).broken.map(({ rule }) => rule)

describe('what a year costs, by hand', () => {
  // Due in week 5; next due in week 15, after the plan.
  const input = small([chain('x', 'a'), chain('y', 'b', { last: -6 })])

  test('two in one week: one way there, two visits, a week late for one, everything in one of thirteen weeks', () => {
    const { cost, variation, broken } = yearCost(input, {
      visits: [
        { site: 'a', week: 5, chains: ['x'] },
        { site: 'b', week: 5, chains: ['y'] },
      ],
    })
    expect(broken).toEqual([])
    // At sites 2 × 80 = 160, travel 60 + 2 × 10 = 80, load 240, level 240/13.
    const level = 240 / 13
    expect(cost.travel).toBe(80)
    expect(cost.late).toBe(7)
    expect([cost.early, cost.overload]).toEqual([0, 0])
    expect(cost.unevenness).toBeCloseTo((240 - level) ** 2 / level + 12 * level, 9)
    expect(cost.total).toBeCloseTo(cost.travel + cost.late + cost.unevenness, 9)
    // Thirteen shares of which one is not nothing: its deviation over the mean is the root of twelve.
    expect(variation).toBeCloseTo(Math.sqrt(12), 9)
  })

  test('a day that overflows is a second way there; minutes beyond the hours are paid tenfold', () => {
    const { cost } = yearCost(small([chain('x', 'a', { workMin: 460 }), chain('y', 'b', { workMin: 60, last: -6 })]), {
      visits: [
        { site: 'a', week: 5, chains: ['x'] },
        { site: 'b', week: 5, chains: ['y'] },
      ],
    })
    // 480 + 80 minutes at sites are two days there: 120 + 20 on the way; 700 of 600 minutes.
    expect(cost.travel).toBe(140)
    expect(cost.overload).toBe(1000)
  })

  test('where the way takes half of a day, the same work is two days there', () => {
    const visits = [
      { site: 'a', week: 5, chains: ['x'] },
      { site: 'b', week: 5, chains: ['y'] },
    ]
    const far = small([chain('x', 'a', { workMin: 100 }), chain('y', 'b', { last: -6, workMin: 100 })], {
      areas: [{ id: 'north', roundTripMin: 240, betweenMin: 10, dayMin: 216 }],
    })
    // 240 minutes at sites are more than 216: twice 240, and twice ten from door to door.
    expect(yearCost(far, { visits }).cost.travel).toBe(500)
    expect(workingMin(480, 240)).toBe(216)
    // Nine hours there and back leave a quarter of a day.
    expect(workingMin(480, 540)).toBe(120)
  })

  test('getting in has a price only where it is given one', () => {
    const visits = [
      { site: 'a', week: 5, chains: ['x'] },
      { site: 'b', week: 5, chains: ['y'] },
    ]
    const { cost } = yearCost(input, { visits })
    expect(cost).not.toHaveProperty('visits')
    const priced = yearCost({ ...input, weights: { ...WEIGHTS, visits: 1.5 } }, { visits }).cost
    // Two visits of 20 minutes.
    expect(priced.visits).toBe(60)
    expect(priced.total).toBeCloseTo(cost.total + 60, 9)
  })

  test('an overdue thing pays for the weeks before the plan too', () => {
    const overdue = small([chain('x', 'a', { last: -14 })])
    expect(yearCost(overdue, { visits: [{ site: 'a', week: 3, chains: ['x'] }] })).toMatchObject({
      cost: { late: 49 },
      broken: [],
    })
  })
})

describe('which weeks are allowed', () => {
  const calendar = { weeks: 13, capacityMin: [600, 600, 600, 600, 600, 0, 600, 600, 600, 600, 600, 600, 600] }
  const weeks = (due: number, more: Partial<YearChain> = {}, first = true) => allowedWeeks(calendar, chain('x', 'a', more), due, first)
  test.each([
    ['its window, but for a week nobody works in', weeks(4), [2, 3, 4, 6, 7]],
    ['a window that began before the plan', weeks(1), [0, 1, 2, 3, 4]],
    ['one that is over altogether: the first five weeks', weeks(-9), [0, 1, 2, 3, 4]],
    ['closed throughout: the first open week behind it', weeks(3, { closed: [1, 2, 3, 4, 5, 6], late: 2 }), [7]],
    ['pinned, whatever is closed', weeks(4, { pinned: 5, closed: [5] }), [5]],
    ['the pin holds the first time only', weeks(4, { pinned: 5 }, false), [2, 3, 4, 6, 7]],
    ['weeks after the plan are open', weeks(12, { closed: [13, 14] }), [10, 11, 12, 13, 14, 15]],
  ])('%s', (_, found, wanted) => {
    expect(found).toEqual(wanted)
  })
})

describe('what is broken is named', () => {
  const input = small([chain('x', 'a'), chain('y', 'b', { every: 4, last: 0, early: 1, late: 1 })])
  const x = { site: 'a', week: 5, chains: ['x'] }
  const y = [4, 8, 12].map((week) => ({ site: 'b', week, chains: ['y'] }))
  test.each<[string, GivenYear['visits'], string[]]>([
    ['nothing', [x, ...y], []],
    ['a site that is not there', [x, ...y, { site: 'c', week: 5, chains: [] }], ['unknown']],
    ['something that does not come back', [{ ...x, chains: ['x', 'z'] }, ...y], ['unknown']],
    ['a week outside of the plan', [x, ...y, { site: 'a', week: 13, chains: ['x'] }], ['week']],
    ['half a week', [x, ...y, { site: 'a', week: 1.5, chains: ['x'] }], ['week']],
    ['two visits in a week', [x, { ...x, chains: [] }, ...y], ['two-visits']],
    ['at another site', [x, { ...(y[0] as (typeof y)[number]), chains: ['y', 'x'] }, ...y.slice(1)], ['other-site']],
    ['twice in one visit', [{ ...x, chains: ['x', 'x'] }, ...y], ['twice']],
    ['too late', [{ ...x, week: 9 }, ...y], ['not-allowed']],
    ['not done', y, ['undone']],
    ['one of three left out', [x, y[0] as (typeof y)[number], y[2] as (typeof y)[number]], ['not-allowed']],
  ])('%s', (_, visits, rules) => {
    expect(rulesOf(input, visits)).toEqual(rules)
  })
})

const DRAWS = fc.record({
  seed: fc.integer({ min: 1, max: 1e6 }),
  sites: fc.integer({ min: 1, max: 12 }),
  areas: fc.integer({ min: 1, max: 3 }),
  weeks: fc.integer({ min: 13, max: 60 }),
})

test('a chain never breaks its windows, and the plan costs what the full sum says', () => {
  fc.assert(
    fc.property(DRAWS, fc.boolean(), ({ seed, ...sizes }, firms) => {
      const drawn = drawYear(seed, sizes)
      const input = firms
        ? {
            ...drawn,
            weights: FIRM_YEAR_WEIGHTS,
            areas: drawn.areas.map((area) => ({ ...area, dayMin: workingMin(480, area.roundTripMin) })),
          }
        : drawn
      const plan = planYear(input, { iterations: 80 })
      const { cost, variation, broken } = yearCost(input, plan)
      expect(broken).toEqual([])
      for (const part of ['travel', 'unevenness', 'overload', 'visits', 'early', 'late', 'total'] as const)
        expect(plan.cost[part] ?? 0).toBeCloseTo(cost[part] ?? 0, 5)
      expect(plan.variation).toBeCloseTo(variation, 9)
      const load = plan.weeks.reduce((sum, { loadMin }) => sum + loadMin, 0)
      expect(plan.weeks.reduce((sum, { levelMin }) => sum + levelMin, 0)).toBeCloseTo(load, 5)
      expect(plan.visits.every(({ chains }) => chains.length > 0)).toBe(true)
    }),
    { numRuns: 60 },
  )
})

test('the same input and seed give the same plan; what is stopped is whole', () => {
  const input = drawYear(11, { sites: 14, areas: 4, weeks: 52 })
  expect(planYear(input, { iterations: 200 })).toEqual(planYear(input, { iterations: 200 }))
  const stopped = planYear(input, { stop: () => true })
  expect(yearCost(input, stopped).broken).toEqual([])
  expect(planYear(input, { iterations: 800 }).cost.total).toBeLessThan(stopped.cost.total)
})

test('a plan goes on from an earlier one: never dearer than it, whole when stopped at once', () => {
  const input = drawYear(23, { sites: 14, areas: 3, weeks: 40 })
  const { visits, cost } = planYear(input, { iterations: 60 })
  expect(planYear(input, { iterations: 0, from: visits }).cost.total).toBeCloseTo(cost.total, 5)
  const further = planYear(input, { iterations: 200, from: visits })
  expect(further.cost.total).toBeLessThanOrEqual(cost.total + 1e-6)
  expect(yearCost(input, further).broken).toEqual([])
})

/** Every way of doing every chain, for a few of them. */
function bruteForce(input: YearInput): number {
  const ways = input.chains.map((one) => {
    const all: number[][] = []
    const onward = (done: number[]): void => {
      const due = done.length === 0 ? one.last + one.every : (done.at(-1) as number) + one.every
      const allowed = allowedWeeks(input, one, due, done.length === 0)
      const inPlan = allowed.filter((week) => week < input.weeks)
      if (due >= input.weeks || inPlan.length === 0) all.push(done)
      for (const week of inPlan) onward([...done, week])
    }
    onward([])
    return all
  })
  let best = Number.POSITIVE_INFINITY
  const choose = (line: number, chosen: number[][]): void => {
    if (line === ways.length) {
      const visits = new Map<string, { site: string; week: number; chains: string[] }>()
      for (const [index, weeks] of chosen.entries())
        for (const week of weeks) {
          const { id, site } = input.chains[index] as YearChain
          const visit = visits.get(`${site} ${week}`) ?? { site, week, chains: [] }
          visit.chains.push(id)
          visits.set(`${site} ${week}`, visit)
        }
      best = Math.min(best, yearCost(input, { visits: [...visits.values()] }).cost.total)
      return
    }
    for (const way of ways[line] as number[][]) choose(line + 1, [...chosen, way])
  }
  choose(0, [])
  return best
}

test('small years reach the best there is', () => {
  for (let seed = 1; seed <= 8; seed++) {
    const input = small(
      ['p', 'q', 'r'].map((id, index) =>
        chain(id, index % 2 ? 'a' : 'b', {
          every: 6 + ((seed * 7 + index * 5) % 6),
          last: -((seed * 3 + index * 4) % 6),
          early: 1 + ((seed + index) % 2),
          late: 1,
          workMin: 30 + 25 * ((seed + index) % 4),
        }),
      ),
    )
    expect(planYear(input).cost.total).toBeCloseTo(bruteForce(input), 5)
  }
})
