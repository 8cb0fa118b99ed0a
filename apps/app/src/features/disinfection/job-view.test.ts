import type { JobPlan } from '@evenround/core/disinfection'
import { jobFigures, jobState, jobSteps, plusHours } from '@evenround/core/job'
import { METRIC } from '@evenround/core/units'
import { done, type Fact } from '@evenround/core/visit'
import { JOB_PLAN as PLAN, JOB_START as START } from '../../testing/job'
import { contactView } from './contact-view'
import { householdText } from './household'
import { isDone, phaseSums, sheetOf } from './job-view'
import { amountText, sayStep, shiftText } from './words'

let seq = 0
const fact = (hours: number, own: Record<string, unknown>): Fact =>
  ({
    id: `f${seq++}`,
    at: plusHours(START, hours),
    seq,
    siteId: 's',
    visitId: 'j',
    supersedes: null,
    voided: false,
    ...own,
  }) as unknown as Fact
const strip = (hours: number, purpose: string, mgL: number) =>
  fact(hours, { kind: 'strip-read', place: 'tap', purpose, method: 'strip', range: 'high', mgL, dilution: 1 })
const planned = fact(-20, { kind: 'job-planned', plan: PLAN })
const contactAfter = (hours: number, ...strips: [number, number][]) => contactOf(PLAN, hours, 50, ...strips)
const contactOf = (plan: JobPlan, hours: number, arrivalMgL: number, ...strips: [number, number][]) => {
  const first = fact(-20, { kind: 'job-planned', plan })
  const state = jobState([first, strip(0, 'arrival', arrivalMgL), ...strips.map(([at, mgL]) => strip(at, 'contact', mgL))])
  if (!state.tide) throw new Error('no clock')
  return {
    tide: state.tide,
    view: contactView(state.tide, plusHours(START, hours), { totalL: 100, available: 50 }, (instant) => instant.slice(11, 16)),
  }
}
const STEPS = jobSteps(PLAN, jobFigures(PLAN), [])

describe('what the clock says', () => {
  test('without a second strip it waits, and asks for one when its time is over', () => {
    expect(contactAfter(2).view).toMatchObject({ title: 'Waiting', mayEnd: false })
    expect(contactAfter(12.1).view.title).toBe('Read a strip: its time is over')
  })
  test('on course it says when and what will be left; enough, it may end', () => {
    const { view } = contactAfter(5, [5, 34])
    expect(view.title).toBe('On course')
    // 50 to 34 in 5 h: at 12 h 50·(34/50)^2.4 = 19.8 are left.
    expect(view.text).toContain('At 07:42 about 19.8 mg/L will be left')
    expect(contactAfter(12, [5, 34], [12, 18]).view).toMatchObject({ tone: 'good', title: 'Contact is enough', mayEnd: true })
    expect(contactAfter(12, [5, 34], [12, 18]).view.text).toContain('23,012 of 18,000 mg·min/L')
  })
  test('falling too fast it says what is to be added', () => {
    const { view } = contactAfter(4, [4, 6])
    expect(view).toMatchObject({ tone: 'danger', redose: 88, mayEnd: false })
    // 100 L lack 44 mg/L: 4.4 g, and 50 mg are in each mL.
  })
  test('a second dose never brings the water over 200 mg/L in all: it is flushed and begun again', () => {
    const { view } = contactOf({ ...PLAN, targetMgL: 200, contactHours: 4 }, 0.2, 400, [0.1, 205])
    expect(view).toMatchObject({ tone: 'danger', title: 'It will not last: flush it and begin again', redose: null, mayEnd: false })
    expect(view.text).toContain('would bring the water to 405 mg/L, over 200 in all')
    // Under the ceiling it is topped up to what was planned: 192 mg/L, 19.2 g.
    expect(contactOf({ ...PLAN, targetMgL: 200, contactHours: 4 }, 1, 200, [1, 8]).view.redose).toBe(384)
  })
  test('slow water is waited for twice as long', () => {
    const slow = { ...PLAN, pH: 8.4 }
    expect(contactOf(slow, 12.1, 50).view.title).toBe('Waiting')
    const { tide, view } = contactOf(slow, 12, 50, [12, 50])
    expect(tide.asked).toEqual({ hours: 24, mgMinL: 36_000, slowWater: true })
    expect(tide.earliestEnd).toBe(plusHours(START, 24))
    expect(view).toMatchObject({ title: 'On course', mayEnd: false })
    expect(view.text).toContain('36,000 of 36,000 mg·min/L')
  })
})

test('an outlet that began weakest and was not read again is asked for by its name', () => {
  const state = jobState([
    fact(-20, {
      kind: 'job-planned',
      plan: { ...PLAN, outlets: [...PLAN.outlets, { id: 'far', name: 'Yard', side: 'cold', pipeL: 9, flowLMin: 8 }] },
    }),
    strip(0, 'arrival', 60),
    fact(0, { kind: 'strip-read', place: 'far', purpose: 'arrival', method: 'strip', range: 'high', mgL: 42, dilution: 1 }),
    strip(12, 'contact', 40),
  ])
  if (!state.tide) throw new Error('no clock')
  const view = contactView(
    state.tide,
    plusHours(START, 12),
    { totalL: 100, available: 50 },
    (at) => at,
    () => 'Yard',
  )
  expect(view).toMatchObject({ title: 'Read a strip at Yard', mayEnd: false })
})
test('sulphide eats it fast: the first strip is asked for after half an hour', () => {
  const demand = { ...PLAN.demand, sulphideMgL: 2 }
  expect(contactOf({ ...PLAN, demand }, 0.2, 50).view.title).toBe('Read a strip at 20:12')
  expect(contactOf({ ...PLAN, demand }, 0.6, 50).view.title).toBe('Read a strip now')
  expect(contactOf({ ...PLAN, demand }, 0.6, 50, [0.6, 49.5]).view.title).toBe('On course')
})

describe('the ladder', () => {
  const ladder = (...facts: Fact[]) => sheetOf(STEPS, jobState([planned, ...facts]))
  test('dose day first, then nothing until the contact ends, then flush day', () => {
    expect(ladder()?.present?.key).toBe('ready/guard')
    const dose = STEPS.filter(({ phase }) => phase !== 'flush' && phase !== 'back')
    const ticked = dose
      .filter(({ kind }) => kind !== 'outlet')
      .map(({ key }) => fact(-1, { kind: 'step-done', stepKey: key, verb: null, stageId: null, ...done() }))
    expect(ladder(...ticked)?.present?.kind).toBe('outlet')
    expect(ladder(...ticked, strip(0, 'arrival', 50))?.present).toBeNull()
    const end = fact(12, { kind: 'step-done', stepKey: 'contact/end', verb: null, stageId: null, ...done() })
    expect(ladder(...ticked, strip(0, 'arrival', 50), end)?.present?.key).toBe('flush/where')
  })
  test('an outlet is done by its strip, not by a tick', () => {
    const outlet = STEPS.find(({ kind }) => kind === 'outlet')
    if (!outlet) throw new Error('no outlet')
    expect(isDone(outlet, jobState([planned, strip(0, 'arrival', 39)]))).toBe(false)
    expect(isDone(outlet, jobState([planned, strip(0, 'arrival', 40)]))).toBe(true)
  })
  test('phases are counted', () => {
    expect(phaseSums(STEPS, jobState([planned])).find(({ phase }) => phase === 'spread')).toEqual({ phase: 'spread', done: 0, of: 1 })
  })
})

describe('words', () => {
  test('amounts as people say them', () => {
    expect([404.5, 1618, 8.64, 0.2].map((ml) => amountText(ml, 'mL', METRIC))).toEqual(['405 mL', '1.62 L', '8.6 mL', '0.2 mL'])
    expect(amountText(236, 'g', METRIC)).toBe('236 g')
    const us = { ...METRIC, volume: 'gal' as const }
    // 404.5 mL are 13.68 fluid ounces, 59 two, 7,571 two gallons of 128; 168 g are 5.93 ounces.
    expect(amountText(404.5, 'mL', us)).toBe('405 mL (13¾ fl oz; 1½ cups + 3 tbsp + 1 tsp)')
    expect(amountText(59, 'mL', us)).toBe('59 mL (2 fl oz; ¼ cup)')
    expect(amountText(7571, 'mL', us)).toBe('7.57 L (256 fl oz; 2 US gal)')
    expect(amountText(168, 'g', us)).toBe('168 g (6 oz)')
    expect(amountText(321, 'g', us)).toBe('321 g (11¼ oz)')
  })
  test('a step’s figures in the firm’s units', () => {
    const values = {
      water: { kind: 'litres' as const, value: 10 },
      amount: { kind: 'amount' as const, value: 404.5 },
      minutes: { kind: 'minutes' as const, value: 0.4 },
    }
    expect(sayStep('{water} first, then {amount}; {minutes} {other}', values, 'mL', METRIC)).toBe(
      '10 L first, then 405 mL; under a minute {other}',
    )
  })
  test('what changed the number', () => {
    expect([shiftText({ of: 'age', share: 0.104 }), shiftText({ of: 'jug', share: -0.05 })]).toEqual([
      'The jug’s age took 10 %',
      'The jug, by your strip gave 5 %',
    ])
  })
})

test('the household reads what to hold off from, and when somebody comes', () => {
  const hold = fact(-1, { kind: 'hold-begun', holdKind: 'do-not-use', until: null, text: 'Do not use the water.' })
  const text = householdText({ firm: 'Fennick', site: 'Mill', zone: 'UTC', state: jobState([planned, hold, strip(0, 'arrival', 50)]) })
  expect(text).toContain('PLEASE HOLD OFF\nDo not use the water.')
  expect(text).toContain('We flush no sooner than 26 Nov 2026, 07:42.')
  expect(text).toContain('Local codes')
})

test('kitchen measures give the dose back: none is off by more than a twentieth', () => {
  const US = { ...METRIC, volume: 'gal' as const }
  const ML: Record<string, number> = { 'fl oz': 29.5735, cup: 236.588, cups: 236.588, tbsp: 14.787, tsp: 4.929 }
  const PART: Record<string, number> = { '': 0, '¼': 0.25, '½': 0.5, '¾': 0.75 }
  const poured = (text: string): number =>
    text.split(' + ').reduce((sum, one) => {
      const [, whole = '', part = '', unit = ''] = /^([\d.]*)([¼½¾]?) ([a-z ]+)$/.exec(one) ?? []
      return sum + (Number(whole || 0) + (PART[part] ?? 0)) * (ML[unit] ?? Number.NaN)
    }, 0)
  for (let ml = 0.3; ml < 3700; ml += ml < 30 ? 0.1 : ml < 300 ? 1 : 7) {
    const said = (/\((.*)\)/.exec(amountText(ml, 'mL', US))?.[1] ?? '').split('; ')
    expect(said.map((text) => Math.abs(poured(text) / ml - 1) <= 0.0501)).toEqual(said.map(() => true))
  }
  // By hand: 34 mL is 2 tablespoons (29.57) and a teaspoon (4.93); a quarter cup would be 59. 1 mL lies between two quarter teaspoons.
  expect(amountText(34, 'mL', US)).toBe('34 mL (1.1 fl oz; 2 tbsp + 1 tsp)')
  expect(amountText(1, 'mL', US)).toBe('1 mL (0.034 fl oz)')
})

describe('the well is closed before the flush', () => {
  const well: JobPlan = {
    ...PLAN,
    targets: ['drilled-well'],
    parts: [{ id: 'c', name: 'Casing', side: 'source', part: { kind: 'casing', diameterMm: 150, depthM: 42, staticLevelM: 18 } }],
    school: 'well-double',
  }
  const steps = jobSteps(well, jobFigures(well), [])
  const begun = [fact(-20, { kind: 'job-planned', plan: well })]
  const ticks = steps
    .filter(({ key, phase }) => ['ready', 'protect', 'dose'].includes(phase) || key.startsWith('spread/out'))
    .map(({ key }) => fact(-1, { kind: 'step-done', stepKey: key, verb: null, stageId: null, ...done() }))
  const running = [...begun, ...ticks, strip(0, 'arrival', 50)]
  const ended = fact(13, { kind: 'step-done', stepKey: 'contact/end', verb: null, stageId: null, ...done() })
  const closing = ['spread/rinse-open', 'spread/rinse', 'spread/rinse-close']
  const capOn = (hours: number) =>
    closing.map((stepKey) => fact(hours, { kind: 'step-done', stepKey, verb: null, stageId: null, ...done() }))
  test('while the clock runs its step is the present one', () => {
    const state = jobState(running)
    expect([state.stand, sheetOf(steps, state)?.present?.key]).toEqual(['contact', 'spread/rinse-open'])
    // Strips alone may have started it, on another phone: what was not ticked before is not asked for again beside the clock.
    const strips = jobState([...begun, strip(0, 'arrival', 50)])
    expect(sheetOf(steps, strips)?.today.map(({ key }) => key)).toEqual(closing)
    expect(sheetOf(steps, jobState([...running, ...capOn(0.5)]))?.present).toBeNull()
  })
  test('left open it comes first on flush day, and the flush does not end without it', () => {
    const flushing = sheetOf(steps, jobState([...running, ended]))
    expect(flushing?.present?.key).toBe('spread/rinse-open')
    expect(flushing?.today.filter(({ phase }) => phase === 'spread')).toHaveLength(3)
    const after = sheetOf(steps, jobState([...running, ended, ...capOn(13.5)]))
    expect([after?.present?.phase, after?.done[0]?.key]).toEqual(['flush', 'spread/rinse-open'])
    expect(sheetOf(steps, jobState([...running, ...capOn(0.5), ended]))?.today.some(({ phase }) => phase === 'spread')).toBe(false)
  })
})
