import fc from 'fast-check'
import type { SurvivalCurve } from '../../wear'
import { comingDue, type DueStage, groupingCost, groupStages, stageWorth } from '.'

const TERMS = { driveMin: 60, accessMin: 10, setupMin: 15 }
const stage = (id: string, dueDay: number, more: Partial<DueStage> = {}): DueStage => ({
  id,
  stage: id,
  system: 's',
  dueDay,
  windowDays: [Math.max(0, dueDay - 10), dueDay + 10],
  latePerDay: 4,
  earlyPerDay: 1,
  workMin: 12,
  loadKg: 1,
  ...more,
})
const idsOf = (stages: readonly DueStage[]): string[][] => groupStages(stages, TERMS).map((group) => group.stages.map(({ id }) => id))

test('the carbon comes with the sediment when the drive is an hour: eight days of its life are cheaper', () => {
  const [one, more] = groupStages([stage('sediment', 10), stage('carbon', 18)], TERMS)
  expect(more).toBeUndefined()
  // Going on day 10 throws 8 × 1 min of carbon away; going on 18 would run 8 × 4 min of risk.
  expect(one).toMatchObject({ dueDay: 10, windowDays: [8, 20], strayMin: 8, pulledForward: [{ id: 'carbon', days: 8, lostMin: 8 }] })
  // 10 to get in, 15 for the system, two times 12.
  expect(one?.serviceMin).toBe(49)
  // Past day 10 the sediment's risk grows by 4 while the carbon gains 1; before it both throw life away.
  expect([one?.latePerDay, one?.earlyPerDay]).toEqual([3, 2])
})

test('a dear part is not pulled forward for a short drive, and windows that do not meet part', () => {
  expect(groupStages([stage('a', 10), stage('b', 18, { earlyPerDay: 12 })], { ...TERMS, driveMin: 5 })).toHaveLength(2)
  expect(idsOf([stage('a', 5), stage('b', 40)])).toEqual([['a'], ['b']])
})

test('a visit keeps days to be planned on: windows that hardly meet part', () => {
  const two = [stage('a', 10, { windowDays: [4, 12] }), stage('b', 18, { windowDays: [12, 24] })]
  expect(groupStages(two, TERMS)).toHaveLength(1)
  expect(groupStages(two, { ...TERMS, leastDays: 4 })).toHaveLength(2)
  const narrow = [stage('a', 10, { windowDays: [10, 11] }), stage('b', 11, { windowDays: [10, 20] })]
  expect(groupStages(narrow, { ...TERMS, leastDays: 4 })).toHaveLength(1)
})

test('one stage twice in a stretch is never one visit, and what somebody put together stays together', () => {
  const again = [stage('a/1', 10, { stage: 'a' }), stage('a/2', 14, { stage: 'a' })]
  expect(groupStages(again, TERMS)).toHaveLength(2)
  const dear = { earlyPerDay: 500, latePerDay: 500 }
  expect(idsOf([stage('a', 10, dear), stage('b', 14, dear)])).toHaveLength(2)
  expect(idsOf([stage('a', 10, { ...dear, together: 'pin' }), stage('b', 14, { ...dear, together: 'pin' })])).toEqual([['a', 'b']])
})

const drawn = fc.array(
  fc.record({
    due: fc.integer({ min: 0, max: 60 }),
    early: fc.integer({ min: 0, max: 15 }),
    late: fc.integer({ min: 0, max: 15 }),
    before: fc.double({ min: 0, max: 5, noNaN: true }),
    after: fc.double({ min: 0, max: 20, noNaN: true }),
    system: fc.constantFrom('s', 't'),
  }),
  { minLength: 1, maxLength: 7 },
)
const asStages = (all: { due: number; early: number; late: number; before: number; after: number; system: string }[]): DueStage[] =>
  all.map(({ due, early, late, before, after, system }, index) =>
    stage(`x${index}`, due, { windowDays: [due - early, due + late], earlyPerDay: before, latePerDay: after, system }),
  )

test('every stage is in one visit whose days all lie in its window, and no way of parting them in order is cheaper', () => {
  fc.assert(
    fc.property(drawn, (all) => {
      const stages = asStages(all)
      const groups = groupStages(stages, TERMS)
      expect(groups.flatMap((group) => group.stages.map(({ id }) => id)).sort()).toEqual(stages.map(({ id }) => id).sort())
      for (const group of groups)
        for (const { windowDays } of group.stages) {
          expect(group.windowDays[0]).toBeGreaterThanOrEqual(windowDays[0])
          expect(group.windowDays[1]).toBeLessThanOrEqual(windowDays[1])
        }
      // Every way to cut the row, by hand: each bit is a cut; what cannot go together costs without end.
      const row = [...stages].sort((a, b) => a.dueDay - b.dueDay || a.windowDays[1] - b.windowDays[1] || (a.id < b.id ? -1 : 1))
      let least = Number.POSITIVE_INFINITY
      for (let cuts = 0; cuts < 2 ** (row.length - 1); cuts++) {
        const parts: DueStage[][] = [[row[0] as DueStage]]
        row.slice(1).forEach((one, index) => {
          if (cuts & (1 << index)) parts.push([one])
          else parts.at(-1)?.push(one)
        })
        least = Math.min(
          least,
          parts.reduce((sum, part) => sum + byHand(part), 0),
        )
      }
      expect(groupingCost(groups, TERMS)).toBeCloseTo(least, 6)
    }),
    { numRuns: 150 },
  )
})

/** What one visit of these stages costs on its best day, every day of the window tried. */
function byHand(part: readonly DueStage[]): number {
  const [from, to] = [Math.max(...part.map(({ windowDays }) => windowDays[0])), Math.min(...part.map(({ windowDays }) => windowDays[1]))]
  let best = Number.POSITIVE_INFINITY
  for (let day = from; day <= to; day++)
    best = Math.min(
      best,
      part.reduce(
        (sum, { dueDay, latePerDay, earlyPerDay }) =>
          sum + Math.max(0, day - dueDay) * latePerDay + Math.max(0, dueDay - day) * earlyPerDay,
        0,
      ),
    )
  return 60 + 10 + 15 * new Set(part.map(({ system }) => system)).size + best
}

describe('what leaving the due day costs', () => {
  // A constant hazard: half are done after 100 days.
  const curve: SurvivalCurve = {
    fittedOn: '2026-01-01',
    days: [0, ...Array.from({ length: 40 }, (_, k) => (k + 1) * 25)],
    survival: [1, ...Array.from({ length: 40 }, (_, k) => 0.5 ** ((k + 1) / 4))],
  }
  test('by hand: late costs the risk beyond the life saved, early the life beyond the risk', () => {
    // A change of 50 minutes over a median of 100 days is half a minute a day. A day past the end is worth 4 days of life.
    const worth = stageWorth(curve, {
      dueOn: '2026-02-11',
      windowFrom: '2026-02-10',
      windowTo: '2026-02-12',
      changeMin: 50,
      medianDays: 100,
      lateWorth: 4,
    })
    // About day 41: 1 − 0.5^0.41 ≈ 0.247 have ended, so risk and life are level there: next to nothing either way.
    expect(worth.latePerDay).toBeLessThan(0.02)
    expect(worth.earlyPerDay).toBeLessThan(0.02)
  })
  test('a longer wait costs more a day, and dearer risk makes lateness dearer', () => {
    const terms = { dueOn: '2026-02-11', windowFrom: '2026-01-05', windowTo: '2026-05-01', changeMin: 50, medianDays: 100, lateWorth: 4 }
    const usual = stageWorth(curve, terms)
    const longer = stageWorth(curve, { ...terms, windowTo: '2026-08-01' })
    expect(longer.latePerDay).toBeGreaterThan(usual.latePerDay)
    expect(stageWorth(curve, { ...terms, lateWorth: 8 }).latePerDay).toBeGreaterThan(usual.latePerDay)
    expect(usual.earlyPerDay).toBeGreaterThan(0.1)
    expect(usual.earlyPerDay).toBeLessThan(0.5)
  })
  test('up to a fifth of its time may be given up, at what that throws away; a promised window is kept', () => {
    const terms = { dueOn: '2026-02-11', windowFrom: '2026-02-08', windowTo: '2026-02-14', changeMin: 50, lateWorth: 4 }
    const due = comingDue(curve, terms)
    // In for 41 days by then, of which a fifth are 8: from 3 February on.
    expect(due).toMatchObject({ windowFrom: '2026-02-08', soonestOn: '2026-02-03', everyDays: 41 })
    // Half a minute of life a day; at the end of day 37, in the middle, 0.841 − 13/25 × 0.134 are left, and who has ended costs four days: 0.5 × (1 − 4 × 0.2286).
    expect(due.soonerPerDay).toBeCloseTo(0.0428, 3)
    expect(due.soonerPerDay).toBeGreaterThan(due.earlyPerDay)
    expect(comingDue(curve, { ...terms, held: true })).toMatchObject({ soonestOn: '2026-02-08' })
    expect(comingDue(curve, { ...terms, windowFrom: '2026-01-20' })).toMatchObject({ soonestOn: '2026-01-20' })
  })
})
