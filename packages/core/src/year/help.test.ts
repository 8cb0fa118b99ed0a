import fc from 'fast-check'
import { carriedOver, eachWhenDue, heavyWeeks, helpFor, planYear, withMove, type YearChain, type YearInput, yearCost } from '.'
import { drawYear } from './drawn'

/** One area beside the base, one site a chain: only hours and windows count. */
const even = (chains: Partial<YearChain>[], more: Partial<YearInput> = {}): YearInput => ({
  weeks: 13,
  capacityMin: Array(13).fill(300),
  dayMin: 480,
  areas: [{ id: 'here', roundTripMin: 0, betweenMin: 0 }],
  sites: chains.map((_, index) => ({ id: `s${index}`, area: 'here', visitMin: 0 })),
  chains: chains.map((one, index) => ({
    id: `c${index}`,
    site: `s${index}`,
    workMin: 100,
    every: 20,
    last: -15,
    early: 0,
    late: 0,
    earlyPerWeek: 3,
    latePerWeek: 9,
    ...one,
  })),
  weights: { travel: 1, unevenness: 1, overload: 10 },
  seed: 1,
  ...more,
})
const weekOf = ({ visits }: { visits: { week: number; chains: string[] }[] }, id: string): number[] =>
  visits.flatMap(({ week, chains }) => (chains.includes(id) ? [week] : []))

test('each when it is due: in its due week, or the open one nearest to it', () => {
  const input = even([{}, { last: -14, early: 2, late: 2 }, { last: -16, every: 20 }], {
    capacityMin: [300, 300, 300, 300, 300, 300, 0, 300, 300, 300, 300, 300, 300],
  })
  const plan = eachWhenDue(input)
  // Week 6 has no hours: of 5 and 7, as far off, the sooner one.
  expect([weekOf(plan, 'c0'), weekOf(plan, 'c1'), weekOf(plan, 'c2')]).toEqual([[5], [5], [4]])
  expect(yearCost(input, plan).broken).toEqual([])
})

test('an earlier plan on newer dues: it stays where it was as far as windows let it', () => {
  const input = even([
    { early: 2, late: 2 },
    { early: 1, late: 1, last: -12 },
  ])
  const before = [
    { site: 's0', week: 7, chains: ['c0'] },
    { site: 's1', week: 3, chains: ['c1', 'gone'] },
  ]
  const plan = carriedOver(input, before)
  // The second is due in week 8 now: where it was is none of its weeks any more.
  expect([weekOf(plan, 'c0'), weekOf(plan, 'c1')]).toEqual([[7], [8]])
})

describe('a week with too much in it', () => {
  // Four times 100 minutes are due in week 5, of which 300 are there; else nothing is to do.
  const input = even([{}, {}, {}, {}])
  const plan = eachWhenDue(input)
  const help = helpFor(input, plan, 5, ({ id }) => [id < 'c2' ? 'softeners' : 'lamps'])

  test('is named', () => {
    expect(heavyWeeks(plan, input)).toEqual([5])
    expect(heavyWeeks(eachWhenDue(even([{}, { last: -10 }], { capacityMin: Array(13).fill(900) })), input)).toEqual([5, 10])
  })

  test('gets lighter by moving one kind of work, at a price that is worked out by hand', () => {
    const [best] = help
    if (!best) throw new Error('no help')
    // A week sooner: two parts lose a week each, 6; a hundred minutes over the hours were 1,000; and the year is evener.
    expect(best).toMatchObject({ from: 5, to: 4, chains: ['c0', 'c1'] })
    expect(best.plan.cost).toMatchObject({ early: 6, late: 0, overload: 0 })
    const level = 400 / 13
    const uneven = (loads: number[]): number =>
      loads.reduce((sum, load) => sum + (load - level) ** 2 / level, 0) + (13 - loads.length) * level
    expect(best.saves).toBeCloseTo(1000 + uneven([400]) - uneven([200, 200]) - 6, 6)
    expect(yearCost(best.input, best.plan)).toMatchObject({ broken: [] })
    expect(yearCost(input, best.plan).broken.map(({ rule }) => rule)).toEqual(['not-allowed', 'not-allowed'])
  })

  test('nothing is moved that is shut then, held to its day, or would come before the time before', () => {
    const moved = (more: Partial<YearChain>, to: number) =>
      withMove(even([{ ...more }]), eachWhenDue(even([{ ...more }])), { chains: ['c0'], from: 5, to })
    expect(moved({}, 4)).not.toBeNull()
    expect(moved({ closed: [4] }, 4)).toBeNull()
    expect(moved({ pinned: 5 }, 4)).toBeNull()
    expect(moved({}, 13)).toBeNull()
    expect(moved({}, -1)).toBeNull()
    const often = even([{ every: 4, last: -3 }])
    // Done in 1, 5, 9: what is due in 5 cannot come before the time in 1.
    expect(withMove(often, eachWhenDue(often), { chains: ['c0'], from: 5, to: 1 })).toBeNull()
    const later = withMove(often, eachWhenDue(often), { chains: ['c0'], from: 5, to: 7 })
    expect(later && weekOf(later.plan, 'c0')).toEqual([1, 7, 11])
  })

  test('where every move costs more than it gains there is none', () => {
    const dear = even(Array(4).fill({ earlyPerWeek: 5000, latePerWeek: 5000 }))
    expect(helpFor(dear, eachWhenDue(dear), 5, ({ id }) => [id, 'all'])).toEqual([])
  })
})

test('when due, carried over and helped: the windows hold, the sums are those of the full sum, and help helps', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
      const input = drawYear(seed, { sites: 9, areas: 3, weeks: 30 })
      const due = eachWhenDue(input)
      const planned = planYear(input, { iterations: 40 })
      const shown = [due, carriedOver(input, planned.visits), carriedOver(input, [])]
      for (const one of shown) {
        const { cost, broken } = yearCost(input, one)
        expect(broken).toEqual([])
        expect(one.cost.total).toBeCloseTo(cost.total, 5)
      }
      // Nothing moved while nothing changed.
      expect(shown[1]?.cost.total).toBeCloseTo(planned.cost.total, 5)
      expect(shown[2]).toEqual(due)
      const [week] = heavyWeeks(due, input)
      for (const { plan, input: wider, saves } of week === undefined ? [] : helpFor(input, due, week, ({ id, site }) => [id, site])) {
        expect(saves).toBeGreaterThan(0)
        expect(yearCost(wider, plan).broken).toEqual([])
        expect(due.cost.total - yearCost(wider, plan).cost.total).toBeCloseTo(saves, 5)
      }
    }),
    { numRuns: 20 },
  )
})
