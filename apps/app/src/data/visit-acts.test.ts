import { type SheetStep, sheet } from '@evenround/core/train'
import { type Fact, visitState } from '@evenround/core/visit'
import { serverThat, until } from '../testing/device'
import { stopWith, TODAY } from '../testing/stop'
import { liftHold } from './hold-acts'
import { openOutbox, useOutbox } from './outbox'
import { doneStep, recordFitting, recordSteps, recordSurprise, startTimer, takeBack, takeSurpriseBack, type VisitPlace } from './visit-acts'

const stop = stopWith('reverse-osmosis-5', [1, 4])
const made = sheet({
  train: stop.system.train,
  tasks: [
    { stage: 'stage-1', action: 'change' },
    { stage: 'stage-4', action: 'change' },
  ],
  schools: { closing: 'hand-only', place: 'in-place', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' },
})
const steps: SheetStep[] = made.ok ? made.visits.flatMap((visit) => [...visit.steps]) : []
const stepTo = (verb: SheetStep['verb'], stage?: string): SheetStep => {
  const found = steps.find((step) => step.verb === verb && (stage === undefined || step.at.includes(stage)))
  if (!found) throw new Error(`the sheet has no ${verb} at ${stage}`)
  return found
}

beforeEach(async () => {
  serverThat(() => 'no network')
  await openOutbox(`firm/${Math.random()}`)
  await until(() => useOutbox.getState().loaded)
})
const written = (): Fact[] => useOutbox.getState().entries.map(({ fact }) => fact)
/** The visit as it stands with what was written so far. */
const place = (): VisitPlace => ({ stop, visitId: 'visit', state: visitState(written()), today: TODAY, person: 'Tam Orrin' })

test('a tick says its step, its act and the stage it is about', async () => {
  const step = stepTo('open-housing', 'stage-1')
  await doneStep(place(), step)
  expect(written()).toMatchObject([
    { kind: 'step-done', siteId: 'site', stepKey: step.key, verb: 'open-housing', stageId: 'stage-1', outcome: 'done' },
  ])
  expect(place().state.done.has(step.key)).toBe(true)
})

test('what came out is recorded with its tick; looked at again it corrects the first', async () => {
  const step = stepTo('inspect', 'stage-1')
  const found = (grade: 'light' | 'spent' | null, dirtPast: boolean | null) =>
    recordSteps(place(), [step], new Map([[step.key, { finding: { found: grade, dirtPast } }]]))
  const [first] = await found('light', false)
  await found('spent', true)
  expect(written().filter(({ kind }) => kind === 'part-removed')).toMatchObject([
    { supersedes: null },
    { found: 'spent', supersedes: first?.id },
  ])
  expect(place().state.removed.get('stage-1')).toMatchObject({ found: 'spent', dirtPast: true })
  expect(() => found(null, null)).toThrow(RangeError)
})

test('the part that went in has the catalogue’s figures and the mark for its label; one nobody knows is rated like the one expected', async () => {
  const next = stop.system.stages[0]?.nextPart
  await recordFitting(place(), 'stage-1', next?.partNumber.toLowerCase() ?? '')
  expect(place().state.fitted.get('stage-1')).toMatchObject({
    partId: next?.id,
    partNumber: next?.partNumber,
    rated: next?.rated,
    dateKnown: true,
  })
  expect(place().state.fitted.get('stage-1')?.markText).toBe('1 · P-1 · 25/11/26 · TO')
  await recordFitting(place(), 'stage-4', 'XX-9')
  const strange = place().state.fitted.get('stage-4')
  expect(strange).toMatchObject({ partId: null, partNumber: 'XX-9', rated: stop.system.stages[3]?.nextPart?.rated })
  expect(() => recordFitting(place(), 'stage-99', 'XX-9')).toThrow('no stage stage-99')
})

test('a tick taken back takes back what was recorded by it, and the book keeps both', async () => {
  const step = stepTo('fit', 'stage-1')
  await recordSteps(place(), [step], new Map([[step.key, { partNumber: 'XX-1' }]]))
  await takeBack(place(), step)
  expect(place().state.fitted.has('stage-1')).toBe(false)
  expect(place().state.done.has(step.key)).toBe(false)
  expect(written()).toHaveLength(4)
  expect(written().filter(({ voided }) => voided)).toHaveLength(2)
  await takeBack(place(), stepTo('loosen', 'stage-1'))
  expect(written()).toHaveLength(4)
})

describe('a block ticked at once', () => {
  const block = steps.filter((step) => step.block === stepTo('take-out', 'stage-1').block)
  const given = () =>
    new Map([
      [stepTo('inspect', 'stage-1').key, { finding: { found: 'heavy' as const, dirtPast: false } }],
      [stepTo('fit', 'stage-1').key, { partNumber: 'P-1' }],
    ])
  const ticked = (): string[] => [...place().state.done.keys()]

  test('is one fact with all its steps in their order, beside what was found and fitted', async () => {
    await recordSteps(place(), block, given())
    expect(written().map(({ kind }) => kind)).toEqual(['part-removed', 'part-fitted', 'block-done'])
    expect(written().at(-1)).toMatchObject({ block: block[0]?.block, steps: block.map(({ key, verb }) => ({ stepKey: key, verb })) })
    expect(ticked()).toEqual(block.map(({ key }) => key))
    expect(place().state.removed.get('stage-1')?.found).toBe('heavy')
  })

  test('what came out otherwise has a fact of its own', async () => {
    const last = block.at(-1) as SheetStep
    await recordSteps(place(), block, new Map([[last.key, { result: { outcome: 'early' as const, choice: null, note: '2:00' } }]]))
    expect(written().map(({ kind }) => kind)).toEqual(['block-done', 'step-done'])
    expect(place().state.results.get(last.key)?.outcome).toBe('early')
  })

  test('one of its steps is taken back: the others stay, in their order, before what was done since', async () => {
    await recordSteps(place(), block, given())
    await doneStep(place(), stepTo('leak-check'))
    await takeBack(place(), stepTo('fit', 'stage-1'))
    expect(ticked()).toEqual([
      ...block.map(({ key }) => key).filter((key) => key !== stepTo('fit', 'stage-1').key),
      stepTo('leak-check').key,
    ])
    expect(place().state.fitted.has('stage-1')).toBe(false)
    expect(place().state.removed.has('stage-1')).toBe(true)
  })

  test('all of it is taken back: nothing of it stands, and the book keeps what was written', async () => {
    await recordSteps(place(), block, given())
    await takeBack(place(), ...block)
    expect(ticked()).toEqual([])
    expect(place().state.fitted.has('stage-1')).toBe(false)
    expect(written()).toHaveLength(6)
    expect(written().filter(({ voided }) => voided)).toHaveLength(3)
  })
})

test('a clock is a fact; a hold begins when the customer is told, and is lifted with what it rests on', async () => {
  const clock = steps.find(({ minutes }) => minutes > 0)
  if (clock) {
    await startTimer(place(), clock)
    expect(place().state.timers.get(clock.key)).toMatchObject({ seconds: Math.round(clock.minutes * 60) })
  }
  const [hold] = made.ok ? made.holds : []
  const told = steps.find(({ verb }) => verb === 'hold')
  if (!hold || !told) throw new Error('a membrane’s change begins a hold')
  const [begun] = await recordSteps(place(), [told], new Map([[told.key, { hold }]]))
  expect(begun).toMatchObject({ kind: 'hold-begun', holdKind: hold.kind, text: hold.text })
  expect(place().state.holds).toHaveLength(1)
  await liftHold('site', 'visit', begun?.id ?? '', 'first tank poured away')
  expect(place().state.lifted.has(begun?.id ?? '')).toBe(true)
})

test('what turned out otherwise is said of its step, and can be taken back', async () => {
  const step = stepTo('close')
  await recordSurprise(place(), step, 'will-not-close', null)
  expect(place().state.surprises.get(step.key)).toMatchObject({ surprise: 'will-not-close' })
  await takeSurpriseBack(place(), step.key)
  expect(place().state.surprises.has(step.key)).toBe(false)
  expect(await takeSurpriseBack(place(), step.key)).toEqual([])
})

test('salt that went in is written down with the drops, and lasts by what it used since it was last full', async () => {
  const softener = stopWith('softener', [2])
  const visit = sheet({
    train: softener.system.train,
    tasks: [{ stage: 'stage-2', action: 'refill' }],
    schools: { closing: 'hand-only', place: 'in-place', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' },
  })
  const step = (visit.ok ? visit.visits.flatMap(({ steps }) => steps) : []).find(
    ({ verb, at }) => verb === 'measure' && at[0] === 'stage-2',
  ) as SheetStep
  const salt = { saltKg: 12, hardnessInMgL: 300, hardnessOutMgL: 10 }
  await recordSteps({ ...place(), stop: softener }, [step], new Map([[step.key, { salt }]]))
  const state = visitState(written())
  expect(written().filter(({ kind }) => kind === 'stage-reading')).toMatchObject([
    { ...salt, stageId: 'stage-2', counterL: null, phase: 'after' },
  ])
  const filled = state.fitted.get('stage-2')
  expect(filled).toMatchObject({ partId: null, partNumber: 'Salt, 12 kg' })
  // Full for 25 kg, a fifth left over: 20 kg at the pace of 12 kg since the last filling.
  const since = softener.system.stages.find(({ id }) => id === 'stage-2')?.part?.fittedOn as string
  const days = (Date.parse(TODAY) - Date.parse(since)) / 86_400_000
  expect(filled?.rated.days).toBe(Math.round(Math.min(365, Math.max(7, (20 * days) / 12))))
})
