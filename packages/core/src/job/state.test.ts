import fc from 'fast-check'
import type { JobPlan } from '../disinfection'
import { chose, done, leftOut } from '../visit'
import { jobState, nextAct, standsMgL } from '.'
import { certificate } from './certificate'
import { after, START, WELL, writer } from './fixture'
import { outletKey, proofFor } from './state'

const PEOPLE = { firmName: 'Firm', siteName: 'Mill', siteAddress: 'Tarrow', systems: [], personOf: () => 'Wren' }
const plan = (more: Partial<JobPlan> = {}): JobPlan => ({ ...WELL, ...more })
const CLEAR = { ironMgL: 0, manganeseMgL: 0, sulphideMgL: 0, ammoniaNMgL: 0, otherMgL: 0 }

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
