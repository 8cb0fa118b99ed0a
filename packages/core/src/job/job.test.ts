import fc from 'fast-check'
import type { JobPlan } from '../disinfection'
import { FAMILIES, familyTrain } from '../train'
import { protection } from '../train/protect'
import { chose, done, leftOut } from '../visit'
import {
  arrivedAt,
  contactAsked,
  type Guarded,
  jobFigures,
  jobState,
  jobSteps,
  nextAct,
  noArrivalAdvice,
  plannedContact,
  runningOrder,
  schoolsFor,
  schoolsSideBySide,
  standsMgL,
  supplies,
} from '.'
import { certificate } from './certificate'
import { demandMgL } from './demand'
import { after, START, WELL, writer } from './fixture'
import { outletKey, proofFor } from './state'

const PEOPLE = { firmName: 'Firm', siteName: 'Mill', siteAddress: 'Tarrow', systems: [], personOf: () => 'Wren' }
const plan = (more: Partial<JobPlan> = {}): JobPlan => ({ ...WELL, ...more })
const CLEAR = { ironMgL: 0, manganeseMgL: 0, sulphideMgL: 0, ammoniaNMgL: 0, otherMgL: 0 }
const SCHOOLS = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' } as const
const guarded = (name: keyof typeof FAMILIES, heater: JobPlan['heater'] = 'none', own = false): Guarded => ({
  systemId: name,
  systemName: name,
  protection: protection(
    familyTrain(
      FAMILIES[name],
      FAMILIES[name].stages.map((_, index) => `s${index + 1}`),
    ),
    { schools: SCHOOLS, heater, own, contactHours: 12 },
  ),
})

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

describe('steps', () => {
  const steps = jobSteps(WELL, jobFigures(WELL), [guarded('ultraviolet'), guarded('reverse-osmosis-5')])
  const keys = steps.map(({ key }) => key)
  const spot = (key: string): number => keys.indexOf(key)

  test('keys are unique and phases in order', () => {
    expect(new Set(keys).size).toBe(keys.length)
    const order = ['ready', 'protect', 'dose', 'spread', 'dose', 'spread', 'flush', 'back']
    const seen = steps.map(({ phase }) => phase).filter((phase, index, all) => phase !== all[index - 1])
    expect(seen).toEqual(order)
  })
  test('protected before the dose; power off before the cap; the second dose before the hot taps; walls rinsed last', () => {
    expect(spot('protect/reverse-osmosis-5/protect/close:feed-valve')).toBeLessThan(spot('dose/well-mix'))
    expect(spot('dose/power-off')).toBeLessThan(spot('dose/cap'))
    expect(spot('dose/cap')).toBeLessThan(spot('dose/well-pour'))
    expect(spot('spread/out-near')).toBeLessThan(spot('dose/hot-pour'))
    expect(spot('dose/hot-pour')).toBeLessThan(spot('spread/out-hot'))
    expect(spot('spread/out-hot')).toBeLessThan(spot('spread/rinse'))
  })
  test('whenever the cap comes off the pump is off and locked first, and the well is closed before anybody leaves it', () => {
    const order = ['dose/power-off', 'dose/cap', 'dose/well-pour', 'dose/power-on', 'dose/well-round', 'dose/well-shut', 'spread/out-far']
    const again = ['spread/out-near', 'dose/hot-power-off', 'dose/hot-cap', 'dose/hot-pour', 'dose/hot-power-on', 'dose/hot-shut']
    const last = ['spread/out-hot', 'spread/rinse-open', 'spread/rinse', 'spread/rinse-close']
    const places = [...order, ...again, ...last].map(spot)
    expect(places.every((place) => place >= 0)).toBe(true)
    expect(places).toEqual([...places].sort((a, b) => a - b))
    for (const key of ['dose/power-off', 'dose/hot-power-off', 'spread/rinse-open'])
      expect(steps.find((step) => step.key === key)?.text).toMatch(/power off(,| and) locked/i)
    for (const key of ['dose/cap', 'dose/hot-cap', 'spread/rinse-open'])
      expect(steps.find((step) => step.key === key)?.caution).toMatch(/Never enter.*Never alone/)
  })
  test('bacteria or a flood: no stored water is called drinkable; a flood asks for chemicals before anybody is told to boil', () => {
    const said = (more: Partial<JobPlan>, chemicals?: boolean) => {
      const made = plan(more)
      const unit = {
        ...guarded('reverse-osmosis-5'),
        protection: protection(familyTrain(FAMILIES['reverse-osmosis-5'], ['s1', 's2', 's3', 's4', 's5']), {
          schools: SCHOOLS,
          heater: 'bypass',
          own: false,
          contactHours: 12,
          storedIsFit: made.reason === 'yearly',
        }),
      }
      return jobSteps(made, jobFigures(made), [unit], chemicals === undefined ? {} : { chemicals })
    }
    const words = (steps: ReturnType<typeof said>): string => steps.map(({ text, why }) => `${text} ${why}`).join(' ')
    expect(words(said({ reason: 'yearly' }))).toMatch(/tank still holds drinking water/)
    for (const reason of ['bacteria', 'flood'] as const) {
      expect(words(said({ reason }))).not.toMatch(/still holds drinking water|Stored drinking water/)
      expect(said({ reason }).find(({ key }) => key.endsWith('/tank-out'))?.text).toMatch(/to waste/)
    }
    const last = (steps: ReturnType<typeof said>) => steps.at(-1)
    expect(said({ reason: 'flood' }).some(({ key }) => key === 'ready/flood')).toBe(true)
    expect(last(said({ reason: 'flood' }))).toMatchObject({ hold: 'chemicals', text: expect.stringContaining('Boiling does not help') })
    expect(last(said({ reason: 'flood' }, false))).toMatchObject({ hold: 'boil-or-bottled' })
    expect(said({ reason: 'bacteria' }).some(({ key }) => key === 'ready/flood')).toBe(false)
  })
  test('the acid question says what stands on the van’s list', () => {
    const ask = (acidAt: string[]) => jobSteps(WELL, jobFigures(WELL), [], { acidAt }).find(({ key }) => key === 'ready/acid')?.text
    expect(ask(['Netherton'])).toMatch(/list has sleeve descaler today, for Netherton/)
    expect(ask([])).toMatch(/list has none/)
  })
  test('the heater nobody drew is taken off, and filled before it heats again', () => {
    expect(spot('protect/heater')).toBeGreaterThan(0)
    expect(spot('back/heater-fill')).toBeLessThan(spot('back/heater-on'))
  })
  test('every outlet that had the dose is cleared by its own strip', () => {
    for (const { id } of WELL.outlets) expect(spot(`flush/out-${id}`)).toBeGreaterThan(spot(`spread/out-${id}`))
  })
  test('a tank’s dose goes in with each quarter of the fill; a unit’s into its first housing', () => {
    const tank = plan({ targets: ['storage-tank'], school: 'weak-long', heater: 'none', heelL: 1 })
    const poured = jobSteps(tank, jobFigures(tank), []).filter(({ kind }) => kind === 'dose')
    expect(poured).toHaveLength(4)
    expect(poured.reduce((sum, { dose }) => sum + (dose?.amount ?? 0), 0)).toBeCloseTo(jobFigures(tank).totalAmount, 9)
    const unit = plan({ targets: ['drinking-unit'], school: 'weak-long', contactHours: 0.5, heater: 'none', sample: false })
    const own = jobSteps(unit, jobFigures(unit), [guarded('reverse-osmosis-5', 'none', true)])
    // Measured into the housing that stands open, with the feed shut; closed, and only then water again.
    const at = (ending: string): number => own.findIndex(({ key }) => key.endsWith(ending))
    const order = [
      '/close:feed-valve',
      '/take-out:s3',
      '/open-housing:s1',
      'dose/unit-in',
      '/close-housing:s1',
      '/open:feed-valve>half',
      'spread/out-far',
    ]
    expect(order.map(at)).toEqual(order.map(at).sort((a, b) => a - b))
    expect(order.map(at).every((place) => place >= 0)).toBe(true)
    expect(own.filter(({ kind }) => kind === 'part').map(({ stageId }) => stageId)).toEqual(['s1', 's2', 's3', 's4', 's5'])
    expect(
      own
        .filter(({ kind }) => kind === 'finding')
        .map(({ stageId }) => stageId)
        .sort(),
    ).toEqual(['s1', 's2', 's3', 's4', 's5'])
    expect(own.filter(({ text }) => text === 'Look before you throw it away').every(({ phase }) => phase === 'protect')).toBe(true)
    expect(own.some(({ key }) => key.includes('take-out:s4'))).toBe(true)
    expect(own.some(({ kind, phase }) => kind === 'hold' && phase === 'back')).toBe(false)
  })
  test('supplies hold both ranges of strips, new elements, and a quarter more product', () => {
    const list = supplies(WELL, jobFigures(WELL), [guarded('ultraviolet')])
    expect(list.map(({ id }) => id)).toEqual(['product', 'guard', 'strips', 'bucket', 'hose', 'parts', 'neutraliser', 'bottle'])
    expect(list[0]?.values?.amount?.value).toBeCloseTo(2 * 404.511 * 1.25, 2)
  })
  test('schools fit what is disinfected, the default first', () => {
    expect(schoolsFor(['drilled-well'])[0]).toBe('well-double')
    expect(schoolsFor(['plumbing'])[0]).toBe('weak-long')
    expect(schoolsFor(['plumbing'])).not.toContain('well-double')
  })
})

describe('state', () => {
  /** Planned, dosed, every outlet confirmed; the clock begins at minute 0. */
  function running() {
    const write = writer()
    write.add(-200, { kind: 'job-planned', plan: WELL })
    const hold = write.add(-100, { kind: 'hold-begun', holdKind: 'do-not-use', until: null, text: '' })
    write.add(-90, { kind: 'chlorine-dosed', stepKey: 'dose/well-pour', amount: 404, unit: 'mL' })
    write.strip(-30, 'far', 'arrival', 52)
    write.strip(-20, 'near', 'arrival', 50)
    write.strip(0, 'hot', 'arrival', 50)
    return { ...write, hold }
  }

  test('it stands where its facts leave it', () => {
    const { facts, add, strip } = writer()
    add(-200, { kind: 'job-planned', plan: WELL })
    expect(jobState(facts).stand).toBe('planned')
    add(-150, { kind: 'step-done', stepKey: 'ready/guard', verb: null, stageId: null, ...done() })
    expect(jobState(facts).stand).toBe('preparing')
    strip(-60, 'far', 'arrival', 30)
    expect(jobState(facts).outlets.map(({ arrival }) => arrival)).toEqual(['waiting', 'short', 'waiting'])
    strip(-50, 'far', 'arrival', null)
    strip(-40, 'far', 'arrival', 45)
    strip(-30, 'near', 'arrival', null)
    expect(jobState(facts).outlets.map(({ arrival }) => arrival)).toEqual(['unconfirmed', 'confirmed', 'waiting'])
    expect(jobState(facts)).toMatchObject({ stand: 'spreading', tide: null })
  })

  test('the clock begins with the last confirmed outlet, and the published night passes', () => {
    const { facts, strip } = running()
    expect(jobState(facts)).toMatchObject({ stand: 'contact', tide: { from: START, earliestEnd: after(720), result: null } })
    strip(300, 'hot', 'contact', 34)
    strip(720, 'hot', 'contact', 18)
    const { tide } = jobState(facts)
    expect(tide?.result?.achievedMgMinL).toBeCloseTo(23_012.34, 2)
    expect(tide?.result?.verdict).toBe('pass')
    expect(nextAct(jobState(facts))).toEqual({ act: 'flush', from: after(720), to: null })
  })

  test('an outlet that is not run, with its reason, does not hold the clock; a nose does', () => {
    const { facts, add, strip } = writer()
    add(-200, { kind: 'job-planned', plan: WELL })
    strip(-10, 'far', 'arrival', 50)
    strip(-5, 'near', 'arrival', 50)
    expect(jobState([...facts]).tide).toBeNull()
    strip(-4, 'hot', 'arrival', null)
    expect(jobState([...facts]).tide).toBeNull()
    add(0, { kind: 'step-done', stepKey: outletKey('hot'), verb: null, stageId: null, ...leftOut('capped') })
    expect(jobState(facts).tide?.from).toBe(after(-5))
  })

  test('the weakest outlet decides', () => {
    const { facts, strip } = running()
    strip(720, 'near', 'contact', 40)
    strip(725, 'far', 'contact', 12)
    expect(jobState(facts).tide?.place).toBe('far')
    strip(730, 'near', 'contact', 9)
    expect(jobState(facts).tide?.place).toBe('near')
  })

  test('an outlet that began weakest and that nobody read again stays the one that decides', () => {
    const { facts, add, strip } = writer()
    add(-200, { kind: 'job-planned', plan: WELL })
    strip(-30, 'far', 'arrival', 41)
    strip(-20, 'near', 'arrival', 50)
    strip(0, 'hot', 'arrival', 60)
    expect(jobState(facts).tide).toMatchObject({ place: 'far', unread: null })
    strip(720, 'near', 'contact', 40)
    strip(725, 'hot', 'contact', 45)
    expect(jobState(facts).tide).toMatchObject({ place: 'far', unread: 'far', result: null })
    strip(730, 'far', 'contact', 20)
    expect(jobState(facts).tide).toMatchObject({ place: 'far', unread: null, result: { verdict: 'pass' } })
  })

  test('sulphide eats chlorine fast: a strip is wanted half an hour in', () => {
    const { facts, add, strip } = writer()
    add(-200, { kind: 'job-planned', plan: plan({ demand: { ...CLEAR, sulphideMgL: 1 } }) })
    for (const { id } of WELL.outlets) strip(0, id, 'arrival', 50)
    expect(nextAct(jobState(facts))).toEqual({ act: 'strip', from: after(30), to: null })
    strip(31, 'near', 'contact', 44)
    expect(nextAct(jobState(facts))?.from).toBe(after(720))
  })

  test('what the water holds is the highest last strip, with what was added since', () => {
    const { facts, add, strip } = running()
    const dosing = { totalL: 400, available: 50 }
    expect(standsMgL(jobState(facts), dosing)).toBe(52)
    strip(300, 'far', 'contact', 20)
    strip(301, 'near', 'contact', 12)
    strip(302, 'hot', 'contact', 18)
    expect(standsMgL(jobState(facts), dosing)).toBe(20)
    // 160 mL of 50 mg each in 400 L: 20 mg/L more.
    add(310, { kind: 'chlorine-dosed', stepKey: 'redose', amount: 160, unit: 'mL' })
    expect(standsMgL(jobState(facts), dosing)).toBe(40)
  })

  test('an outlet that was left out is not counted as proved; one that had some of the dose is run clear all the same', () => {
    const { facts, add, strip } = writer()
    add(-200, { kind: 'job-planned', plan: WELL })
    strip(-10, 'far', 'arrival', 50)
    strip(-5, 'near', 'arrival', 20)
    add(-4, { kind: 'step-done', stepKey: outletKey('near'), verb: null, stageId: null, ...leftOut('sticks') })
    add(-3, { kind: 'step-done', stepKey: outletKey('hot'), verb: null, stageId: null, ...leftOut('capped') })
    strip(800, 'far', 'flush', 0.2)
    expect(proofFor(jobState(facts), { holdKind: 'do-not-use' })).toBeNull()
    strip(801, 'near', 'flush', 0)
    expect(proofFor(jobState(facts), { holdKind: 'do-not-use' })).toBe(
      'strips at 2 outlets, at most 0.2 mg/L; not run, so not proved: Kitchen, hot',
    )
  })
  test('every outlet left out proves nothing', () => {
    const { facts, add } = writer()
    add(-200, { kind: 'job-planned', plan: WELL })
    for (const { id } of WELL.outlets)
      add(-3, { kind: 'step-done', stepKey: outletKey(id), verb: null, stageId: null, ...leftOut('frozen') })
    expect(proofFor(jobState(facts), { holdKind: 'do-not-use' })).toBeNull()
  })

  test('after a flood no count of germs lifts what was said for chemicals', () => {
    const { facts, add } = running()
    add(-190, { kind: 'job-planned', plan: plan({ reason: 'flood' }) })
    const sampleId = add(9000, { kind: 'sample-taken', bottle: 'B', laboratory: 'L', place: 'K', dechlorinating: false, chlorineMgL: 0 })
    add(9100, {
      kind: 'sample-result',
      sampleId,
      totalColiform: 'absent',
      eColi: 'absent',
      others: [],
      reportNumber: 'R',
      day: '2026-12-04',
    })
    expect(proofFor(jobState(facts), { holdKind: 'do-not-drink' })).toBeNull()
    add(9200, { kind: 'step-done', stepKey: 'ready/flood', verb: null, stageId: null, ...chose('no') })
    expect(proofFor(jobState(facts), { holdKind: 'do-not-drink' })).toBe('laboratory report R, no coliforms')
  })

  test('order and repeats of facts make no difference', () => {
    const { facts, strip } = running()
    strip(300, 'hot', 'contact', 34)
    strip(720, 'hot', 'contact', 18)
    const whole = jobState(facts)
    fc.assert(
      fc.property(fc.shuffledSubarray(facts, { minLength: facts.length }), fc.subarray(facts), (shuffled, again) => {
        expect(jobState([...shuffled, ...again])).toEqual(whole)
      }),
      { numRuns: 40 },
    )
  })

  test('flush, sample and result follow the actual end of the day before', () => {
    const { facts, add, strip, hold } = running()
    strip(720, 'hot', 'contact', 18)
    add(730, { kind: 'step-done', stepKey: 'contact/end', verb: null, stageId: null, ...done() })
    expect(jobState(facts).stand).toBe('flushing')
    expect(proofFor(jobState(facts), { holdKind: 'do-not-use' })).toBeNull()
    for (const [index, id] of ['far', 'near', 'hot'].entries()) strip(800 + index, id, 'flush', index === 2 ? 0.6 : 0.2)
    expect(proofFor(jobState(facts), { holdKind: 'do-not-use' })).toBeNull()
    strip(810, 'hot', 'flush', 0.5)
    expect(proofFor(jobState(facts), { holdKind: 'do-not-use' })).toBe('strips at 3 outlets, at most 0.5 mg/L')
    add(811, { kind: 'hold-lifted', holdId: hold, proof: 'strips' })
    add(820, { kind: 'job-day-ended', day: 'flush', outcome: 'done', note: '' })
    expect(nextAct(jobState(facts))).toEqual({ act: 'sample', from: after(820 + 5 * 1440), to: after(820 + 7 * 1440) })
    const sampleId = add(9000, {
      kind: 'sample-taken',
      bottle: 'B1',
      laboratory: 'Lab',
      place: 'Kitchen',
      dechlorinating: false,
      chlorineMgL: 0,
    })
    expect(jobState(facts).stand).toBe('result-due')
    expect(certificate('job', jobState(facts), PEOPLE)).toBeNull()
    add(12_000, {
      kind: 'sample-result',
      sampleId,
      totalColiform: 'absent',
      eColi: 'absent',
      others: [],
      reportNumber: 'R1',
      day: '2026-12-04',
    })
    const state = jobState(facts)
    expect(state.stand).toBe('clean')
    expect(proofFor(state, { holdKind: 'boil-or-bottled' })).toBe('laboratory report R1, no coliforms')
    expect(certificate('job', state, PEOPLE)).toMatchObject({
      verdict: 'clean',
      contact: { passed: true, hours: expect.closeTo(730 / 60, 6), lastMgL: 18 },
      result: { reportNumber: 'R1' },
      doses: [{ amount: 404, unit: 'mL', by: 'Wren' }],
    })
  })

  test('a result of another bottle is not this sample’s', () => {
    const { facts, add } = running()
    add(9000, { kind: 'sample-taken', bottle: 'B1', laboratory: 'Lab', place: 'Kitchen', dechlorinating: false, chlorineMgL: 0 })
    add(9100, {
      kind: 'sample-result',
      sampleId: 'another',
      totalColiform: 'absent',
      eColi: 'absent',
      others: [],
      reportNumber: 'R',
      day: '2026-12-04',
    })
    expect(jobState(facts).verdict).toBeNull()
  })

  test('without a sample nothing is called proved: flushed, and no more', () => {
    const { facts, add, strip } = writer()
    add(-20, { kind: 'job-planned', plan: plan({ sample: false }) })
    for (const { id } of WELL.outlets) strip(0, id, 'arrival', 60)
    strip(30, 'near', 'contact', 50)
    add(31, { kind: 'step-done', stepKey: 'contact/end', verb: null, stageId: null, ...done() })
    add(60, { kind: 'job-day-ended', day: 'flush', outcome: 'done', note: '' })
    expect(jobState(facts).stand).toBe('flushed')
    expect(certificate('job', jobState(facts), PEOPLE)?.verdict).toBe('flushed-not-sampled')
  })

  test('a dose tapped twice, or on two phones, went in once; one on top counts each time', () => {
    const { facts, add } = running()
    add(-89, { kind: 'chlorine-dosed', stepKey: 'dose/well-pour', amount: 404, unit: 'mL' })
    add(200, { kind: 'chlorine-dosed', stepKey: 'redose', amount: 90, unit: 'mL' })
    add(300, { kind: 'chlorine-dosed', stepKey: 'redose', amount: 80, unit: 'mL' })
    expect(jobState(facts).doses.map(({ amount }) => amount)).toEqual([404, 90, 80])
  })

  test('given up it asks for nothing more', () => {
    const { facts, add } = running()
    add(10, { kind: 'job-day-ended', day: 'job', outcome: 'stopped', note: 'sold' })
    expect([jobState(facts).stand, nextAct(jobState(facts))]).toEqual(['stopped', null])
  })
})
