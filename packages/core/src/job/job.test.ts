import type { JobPlan } from '../disinfection'
import { arrivedAt, contactAsked, jobFigures, jobSteps, noArrivalAdvice, plannedContact, runningOrder, schoolsSideBySide } from '.'
import { demandMgL } from './demand'
import { WELL } from './fixture'

const plan = (more: Partial<JobPlan> = {}): JobPlan => ({ ...WELL, ...more })
const CLEAR = { ironMgL: 0, manganeseMgL: 0, sulphideMgL: 0, ammoniaNMgL: 0, otherMgL: 0 }

describe('figures', () => {
  test('the published well: two doses of 404.5 mL for 458.65 L', () => {
    const made = jobFigures(WELL)
    expect(made.totalL).toBeCloseTo(458.6467, 4)
    expect(made.doses.map(({ id, amount, volumeL }) => [id, amount, volumeL])).toEqual([
      ['cold', expect.closeTo(404.511, 3), expect.closeTo(458.6467, 4)],
      ['hot', expect.closeTo(404.511, 3), expect.closeTo(458.6467, 4)],
    ])
    expect(made).toMatchObject({ unit: 'mL', computed: true, refusals: [], warnings: [], flushToMgL: 0.5 })
  })

  test('what moved the number: age took 10 %, the water’s own demand 2 %', () => {
    const [age, other] = jobFigures(WELL).shifts
    // 5.375193 of 6 are left; 1.2 of 51.2 mg/L are demand.
    expect(age).toEqual({ of: 'age', share: expect.closeTo(0.104135, 5) })
    expect(other).toEqual({ of: 'otherMgL', share: expect.closeTo(0.0234375, 7) })
  })

  test('demand is twice the stoichiometry: iron 0.64, manganese 1.3, sulphide 2.1, ammonia 7.6', () => {
    expect(demandMgL({ ironMgL: 1, manganeseMgL: 1, sulphideMgL: 1, ammoniaNMgL: 1, otherMgL: 0.5 })).toBeCloseTo(2 * 11.64 + 0.5, 9)
  })

  test('recirculated for a turnover, at least ten minutes', () => {
    expect(jobFigures(WELL).recirculateMin).toBeCloseTo(424.115 / 20, 3)
    expect(jobFigures(plan({ flowLMin: 100 })).recirculateMin).toBe(10)
    expect(jobFigures(plan({ targets: ['plumbing'], school: 'weak-long' })).recirculateMin).toBeNull()
  })

  test('rules of thumb with what they would give from this jug', () => {
    // 58.052 mg are in each mL of it.
    expect(jobFigures(WELL).thumbs).toEqual([
      { id: 'one-in-a-thousand', amount: expect.closeTo(458.6467, 4), givesMgL: expect.closeTo(58.052, 3) },
    ])
    const tank = plan({ targets: ['storage-tank'], school: 'weak-long' })
    expect(jobFigures(tank).thumbs.map(({ id }) => id)).toContain('cup-a-tank')
    expect(jobFigures(plan({ product: { kind: 'solid', percent: 65 } })).thumbs).toEqual([])
  })

  test('by depth a millilitre a litre, and what that gives; volume unknown two litres of five per cent', () => {
    const byDepth = jobFigures(plan({ school: 'by-depth' }))
    expect(byDepth.doses[0]?.amount).toBeCloseTo(458.6467, 4)
    expect(byDepth.givesMgL).toBeCloseTo(58.052, 3)
    const unknown = jobFigures(plan({ school: 'volume-unknown', parts: [] }))
    expect(unknown).toMatchObject({ computed: false, refusals: [] })
    expect(unknown.doses[0]?.amount).toBeCloseTo(100_000 / 58.052, 1)
  })

  test('a strip of the thinned jug overrules label and age', () => {
    // 40 mg/L at one in a thousand is 40 mg in each mL.
    const made = jobFigures(plan({ jug: { mgL: 40, dilution: 1000 } }))
    expect(made.strength.available).toBeCloseTo(40, 9)
    expect(made.doses[0]?.amount).toBeCloseTo((458.6467 * 51.2) / 40, 3)
    expect(made.shifts[0]?.of).toBe('jug')
  })

  test('a heater included outside a well: its side gets a dose of its own', () => {
    const made = jobFigures(
      plan({
        targets: ['plumbing'],
        school: 'weak-long',
        heater: 'include',
        parts: [
          { id: 'c', name: 'Cold', side: 'cold', part: { kind: 'known', volumeL: 30 } },
          { id: 'h', name: 'Heater', side: 'hot', part: { kind: 'known', volumeL: 150 } },
        ],
      }),
    )
    expect(made.doses.map(({ id, volumeL }) => [id, volumeL])).toEqual([
      ['cold', 30],
      ['hot', 150],
    ])
  })

  test('a tank is dosed in four parts and flushed by filling', () => {
    const made = jobFigures(
      plan({
        targets: ['storage-tank'],
        school: 'weak-long',
        heelL: 40,
        parts: [{ id: 't', name: 'Tank', side: 'tank', part: { kind: 'known', volumeL: 1000 } }],
      }),
    )
    expect(made.doses[0]?.parts).toBe(4)
    // 1,920 L out and 1,920 L in again at 20 L/min.
    expect(made.flush.parts).toEqual([{ id: 't', fills: 2, litres: 1920, minutes: 192 }])
    expect(made.flush.totalMinutes).toBe(192)
    // 1,000 L at 50 mg/L hold 50 g of chlorine: 7 g of thiosulfate each.
    expect(made.neutraliserG).toBeCloseTo(350, 6)
  })

  test('the neutraliser is for all the chlorine that went in: twice for a double dose, by depth what the jug gave', () => {
    // 458.6467 L × 50 mg/L × 7 g/g = 160.5 g for one dose.
    expect(jobFigures(plan({ school: 'weak-long', demand: CLEAR })).neutraliserG).toBeCloseTo(160.526, 2)
    expect(jobFigures(plan({ demand: CLEAR })).neutraliserG).toBeCloseTo(321.053, 2)
    // A fresh jug of 12.5 % by volume holds 125 mg in each mL: a millilitre a litre is 125 mg/L, 401 g.
    const fresh = { kind: 'liquid', percent: 12.5, basis: 'w/v', ageDays: 0, storedAtC: 15 } as const
    const byDepth = jobFigures(plan({ school: 'by-depth', demand: CLEAR, product: fresh }))
    expect(byDepth.neutraliserG).toBeCloseTo(401.316, 2)
    // Nobody knows the volume: 100 g of chlorine went in, whatever it went into.
    expect(jobFigures(plan({ school: 'volume-unknown', parts: [] })).neutraliserG).toBeCloseTo(700, 6)
  })
  test('once strips were read they say how much there is to neutralise and to flush', () => {
    const made = jobFigures(WELL, 18)
    // 458.6467 L × 18 mg/L × 7.
    expect(made.neutraliserG).toBeCloseTo(57.789, 2)
    expect(made.standsMgL).toBe(18)
    // The casing by hand: 424.115 L at 20 L/min, ln(18/0.5).
    expect(made.flush.parts[0]).toMatchObject({ id: 'casing', minutes: expect.closeTo(75.9912, 3) })
    // Before any strip: ln(100/0.5) for two doses.
    expect(jobFigures(plan({ demand: CLEAR })).flush.parts[0]).toMatchObject({ minutes: expect.closeTo((424.115 / 20) * Math.log(200), 3) })
  })
  test('a tank and its heater: each side once, and the hot dose is one figure wherever it stands', () => {
    const both = plan({
      targets: ['storage-tank'],
      school: 'weak-long',
      heater: 'include',
      heelL: 1,
      demand: CLEAR,
      parts: [
        { id: 't', name: 'Tank', side: 'tank', part: { kind: 'known', volumeL: 1000 } },
        { id: 'h', name: 'Heater', side: 'hot', part: { kind: 'known', volumeL: 200 } },
      ],
    })
    const made = jobFigures(both)
    expect(made.doses.map(({ id, parts }) => [id, parts])).toEqual([
      ['cold', 4],
      ['hot', 1],
    ])
    const [cold, hot] = made.doses
    const steps = jobSteps(both, made, [])
    const amounts = (key: RegExp): number[] => steps.filter((step) => key.test(step.key)).map(({ values }) => values?.amount?.value ?? -1)
    expect(amounts(/^dose\/hot-(mix|in)$/)).toEqual([hot?.amount, hot?.amount])
    // Every part of the tank's dose is thinned, not the first alone.
    expect(amounts(/^dose\/tank(-\d)?-mix$/)).toEqual(Array(4).fill((cold?.amount ?? 0) / 4))
  })
  test('by depth that ends under 50 mg/L is said; a fixed amount stands beside no measured water', () => {
    const weak = { kind: 'liquid', percent: 4.5, basis: 'w/v', ageDays: 0, storedAtC: 15 } as const
    expect(jobFigures(plan({ school: 'by-depth', product: weak })).warnings).toContain('by-depth-under-50')
    expect(jobFigures(plan({ school: 'by-depth' })).warnings).toEqual([])
    expect(schoolsSideBySide(plan()).map(({ school }) => school)).not.toContain('volume-unknown')
    expect(schoolsSideBySide(plan({ parts: [] })).map(({ school }) => school)).toContain('volume-unknown')
  })
  test('a dug well whose pump would run over two hours is planned over two days', () => {
    // 1.2 m across, 4 m of water: 4,524 L, 226 minutes at 20 L/min.
    const wide: JobPlan = plan({
      targets: ['dug-well'],
      parts: [{ id: 'w', name: 'Shaft', side: 'source', part: { kind: 'upright-cylinder', diameterMm: 1200, waterDepthM: 4 } }],
    })
    expect(jobFigures(wide)).toMatchObject({ refusals: ['pump-over-two-hours'], recirculateMin: expect.closeTo(226.19, 1) })
    const twoDays = { ...wide, secondDay: true }
    expect(jobFigures(twoDays).refusals).toEqual([])
    expect(jobSteps(twoDays, jobFigures(twoDays), []).map(({ key }) => key)).toContain('dose/second-day')
    expect(jobFigures({ ...wide, flowLMin: 60 }).refusals).toEqual([])
  })

  test.each<[string, Partial<JobPlan>, string]>([
    ['stabilised chlorine', { stabilised: true }, 'stabilised'],
    ['no volume', { parts: [] }, 'nothing-to-wet'],
    ['over 200 without a reason', { targetMgL: 201 }, 'strength-needs-reason'],
    ['shorter than the school', { contactHours: 3.9, contactReason: 'back by noon' }, 'hours-too-short'],
    ['four hours at 50 for a well without a reason', { contactHours: 4 }, 'contact-needs-reason'],
    ['no outlet', { outlets: [], heater: 'none' }, 'no-outlets'],
    ['a heater and no hot outlet', { outlets: [WELL.outlets[0] as JobPlan['outlets'][number]] }, 'hot-outlets-missing'],
    ['by depth with granules', { school: 'by-depth', product: { kind: 'solid', percent: 65 } }, 'by-depth-solid'],
  ])('%s is refused', (_, more, refusal) => {
    expect(jobFigures(plan(more)).refusals).toEqual([refusal])
  })
  test('over 200 with its reason in writing, and four hours for a well that must be back, are not', () => {
    expect(jobFigures(plan({ targetMgL: 250, strengthReason: 'slime, by the county’s word', contactHours: 4 })).refusals).toEqual([])
    expect(jobFigures(plan({ contactHours: 4, contactReason: 'the well must be back the same day' })).refusals).toEqual([])
  })

  test.each<[string, Parameters<typeof plannedContact>[0], [number, number, boolean]]>([
    // 50 mg/L × 12 h × 0.5.
    ['a well by the book', { targets: ['drilled-well'], school: 'well-double', targetMgL: 50, contactHours: 12 }, [300, 300, false]],
    ['a tank, strong and short', { targets: ['storage-tank'], school: 'strong-short', targetMgL: 200, contactHours: 4 }, [400, 300, false]],
    ['a well back the same day', { targets: ['drilled-well'], school: 'well-double', targetMgL: 50, contactHours: 4 }, [100, 300, true]],
    ['plumbing under its own pair', { targets: ['plumbing'], school: 'strong-short', targetMgL: 150, contactHours: 4 }, [300, 400, true]],
    ['a unit on its own', { targets: ['drinking-unit'], school: 'weak-long', targetMgL: 50, contactHours: 0.5 }, [12.5, 12.5, false]],
  ])('strength × time of %s', (_, asked, [mgHL, usualMgHL, less]) => {
    expect(plannedContact(asked)).toEqual({ mgHL, usualMgHL, less })
  })

  test('a municipal site is flushed down to its own level', () => {
    expect(jobFigures(plan({ supply: 'municipal', supplyMgL: 0.9 })).flushToMgL).toBe(0.9)
    expect(jobFigures(plan({ supply: 'municipal', supplyMgL: 0.2 })).flushToMgL).toBe(0.5)
  })
})

test('schools side by side: strong and short takes four times the strength for a third of the time', () => {
  const made = schoolsSideBySide(plan({ demand: { ...WELL.demand, otherMgL: 0 } }))
  const of = (school: string) => made.find((one) => one.school === school)
  expect((of('strong-short')?.amount ?? 0) / (of('weak-long')?.amount ?? 1)).toBeCloseTo(4, 9)
  expect([of('strong-short')?.contactHours, of('weak-long')?.contactHours]).toEqual([4, 12])
  expect(of('well-double')?.doses).toBe(2)
})

test('slow water: every school, the household and the flush wait twice as long; a warm and neutral one as written', () => {
  expect(contactAsked(plan())).toEqual({ hours: 12, mgMinL: 18_000, slowWater: false })
  const cold = plan({ waterC: 4 })
  expect(contactAsked(cold)).toEqual({ hours: 24, mgMinL: 36_000, slowWater: true })
  expect(schoolsSideBySide(cold).map(({ school, contactHours }) => [school, contactHours])).toEqual(
    schoolsSideBySide(plan()).map(({ school, contactHours }) => [school, contactHours * 2]),
  )
  const aside = jobSteps(cold, jobFigures(cold), []).find(({ key }) => key === 'ready/aside')
  expect(aside?.values?.hours).toEqual({ kind: 'hours', value: 24 })
})

describe('outlets', () => {
  test('cold first, the furthest first, then hot', () =>
    expect(runningOrder(WELL.outlets).map(({ id }) => id)).toEqual(['far', 'near', 'hot']))
  test('arrival is the pipe over its flow; it counts from eight tenths of the target', () => {
    expect(jobFigures(WELL).arrivals.map(({ minutes }) => minutes)).toEqual([2, 0.5, 1])
    expect([arrivedAt(40, 50), arrivedAt(39.9, 50)]).toEqual([true, false])
  })
  test('where others have it this branch is the question, where none has it the dose is', () => {
    const far = WELL.outlets[1] as JobPlan['outlets'][number]
    expect(noArrivalAdvice(WELL, far, { arrived: 2, short: 0 })[0]).toBe('dead-leg')
    expect(noArrivalAdvice(WELL, far, { arrived: 0, short: 1 })[0]).toBe('dose-small')
  })
})
