import type { StopDto } from '@evenround/contract/site'
import { type Action, isBegun, isFitted, isPutBack, type SheetHold, type SheetStep, type SurpriseId } from '@evenround/core/train'
import { daysBetween } from '@evenround/core/units'
import {
  type BlockStep,
  done,
  type HoldBegun,
  NOTHING_READ,
  type PartFitted,
  type PartRemoved,
  readingKey,
  type StepResult,
  type VisitState,
} from '@evenround/core/visit'
import { type FoundGrade, saltDays, usualLitresPerDay } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { partFitted, partRemoved } from './fitting'
import { type NewFact, record } from './outbox'

/** What is said of a part that came out; both are asked before it is recorded. */
export interface Finding {
  found: FoundGrade | null
  dirtPast: boolean | null
}

export interface VisitPlace {
  stop: StopDto
  visitId: string
  state: VisitState
  /** The firm's day and the person, for the mark on the part. */
  today: string
  person: string
}

type Visited = Pick<VisitPlace, 'stop' | 'visitId'>
const at = ({ stop, visitId }: Visited) => ({ siteId: stop.site.id, visitId })

const stageOf = ({ stop }: VisitPlace, step: SheetStep): string | null => stop.system.stages.find(({ id }) => id === step.at[0])?.id ?? null

const named = (place: VisitPlace, step: SheetStep): BlockStep => ({ stepKey: step.key, verb: step.verb, stageId: stageOf(place, step) })

const tick = (place: VisitPlace, step: SheetStep, result: StepResult = done()): NewFact => ({
  kind: 'step-done',
  ...at(place),
  ...named(place, step),
  ...result,
})

/** What a softener was filled with and read by; hardness null where nobody took the drops. */
export interface Salt {
  saltKg: number | null
  hardnessInMgL: number | null
  hardnessOutMgL: number | null
}

/** What was said at a step beside its tick. */
export interface Given {
  finding?: Finding
  partNumber?: string
  salt?: Salt
  hold?: SheetHold
  /** How it came out, where that is not simply done. */
  result?: StepResult
}

/** Ticks a step off, with how it came out. */
export const doneStep = (place: VisitPlace, step: SheetStep, result?: StepResult) => record(tick(place, step, result))

/** The ticks of steps done at once: one fact for all of them, and one for each that came out otherwise. */
function ticks(place: VisitPlace, steps: readonly SheetStep[], given: ReadonlyMap<string, Given>): NewFact[] {
  const otherwise = steps.filter(({ key }) => given.get(key)?.result !== undefined)
  const plain = steps.filter((step) => !otherwise.includes(step))
  const [only, ...more] = plain
  const own = otherwise.map((step) => tick(place, step, given.get(step.key)?.result))
  if (only === undefined) return own
  if (more.length === 0) return [tick(place, only), ...own]
  return [{ kind: 'block-done', ...at(place), block: only.block, steps: plain.map((step) => named(place, step)) }, ...own]
}

/** Ticks steps off together, with whatever was found, fitted and told at them. */
export function recordSteps(place: VisitPlace, steps: readonly SheetStep[], given: ReadonlyMap<string, Given> = new Map()) {
  const beside = steps.flatMap((step): NewFact[] => {
    const { finding, partNumber, salt, hold } = given.get(step.key) ?? {}
    const stageId = stageOf(place, step)
    return [
      ...(finding && stageId !== null ? [findingFact(place, stageId, finding)] : []),
      ...(partNumber !== undefined && stageId !== null ? [fittingFact(place, stageId, partNumber)] : []),
      ...(salt && stageId !== null ? saltFacts(place, stageId, salt) : []),
      ...(hold ? [holdFact(place, hold)] : []),
      ...(isPutBack(step) && stageId !== null ? notRemoved(place, stageId) : []),
    ]
  })
  return record(...beside, ...ticks(place, steps, given))
}

/** Something turned out otherwise at a step: the sheet goes on from there by another way. */
export const recordSurprise = (place: VisitPlace, step: SheetStep, surprise: SurpriseId, stageId: string | null) =>
  record({ kind: 'step-surprise', ...at(place), stepKey: step.key, surprise, stageId })

/** It was as expected after all: the sheet goes on as it was. */
export function takeSurpriseBack(place: VisitPlace, stepKey: string) {
  const surprise = place.state.surprises.get(stepKey)
  if (!surprise) return Promise.resolve([])
  const { surprise: said, stageId } = surprise
  return record({ kind: 'step-surprise', ...at(place), stepKey, surprise: said, stageId, supersedes: surprise.id, voided: true })
}

/** A stage is taken into today's work, or (no action) left for another day, and why. */
export const changeWork = (place: Visited, stageId: string, action: Action | null, why: string | null) =>
  record({ kind: 'work-changed', ...at(place), stageId, action, why })

/** Everything that nothing new went into is left for another day, what was not begun first: the sheet then puts it back. */
export function leaveRest(place: VisitPlace, steps: readonly SheetStep[], why: string) {
  const ticked = [...place.state.done.keys()]
  const left = (place.state.work ?? []).flatMap(({ stage }) => (isFitted(steps, ticked, stage) ? [] : [stage]))
  const inOrder = left.toSorted((a, b) => Number(isBegun(steps, ticked, a)) - Number(isBegun(steps, ticked, b)))
  return record(...inOrder.map((stageId): NewFact => ({ kind: 'work-changed', ...at(place), stageId, action: null, why })))
}

/** Starts the clock of a step: a fact, so that it goes on through a reload and on another device. */
export const startTimer = (place: VisitPlace, step: SheetStep) =>
  record({ kind: 'timer-started', ...at(place), stepKey: step.key, seconds: Math.round(step.minutes * 60) })

function findingFact(place: VisitPlace, stageId: string, { found, dirtPast }: Finding): NewFact {
  if (found === null) throw new RangeError('a finding needs a grade')
  return partRemoved(at(place), stageId, { found, dirtPast }, place.state.removed.get(stageId)?.id ?? null)
}

/** The old part is in again: it was not removed after all, and goes on wearing. */
function notRemoved(place: VisitPlace, stageId: string): NewFact[] {
  const removed = place.state.removed.get(stageId)
  if (!removed) return []
  const { found, dirtPast } = removed
  return [{ kind: 'part-removed', ...at(place), stageId, found, dirtPast, supersedes: removed.id, voided: true }]
}

function stageHere({ stop }: VisitPlace, stageId: string) {
  const stage = stop.system.stages.find(({ id }) => id === stageId)
  if (!stage) throw new RangeError(`no stage ${stageId}`)
  return stage
}

function fittingFact(place: VisitPlace, stageId: string, typed: string) {
  const { today, person } = place
  return partFitted({ ...at(place), today, person }, stageHere(place, stageId), typed, place.state.fitted.get(stageId)?.id ?? null)
}

/** Salt that went in is what a softener runs on: written down with the drops, and good for as long as what it used says. */
function saltFacts(place: VisitPlace, stageId: string, { saltKg, hardnessInMgL, hardnessOutMgL }: Salt): NewFact[] {
  const { stop, state, today } = place
  const { part } = stageHere(place, stageId)
  if (saltKg === null) return []
  const { people, source } = stop.site
  const days = saltDays({
    filledKg: saltKg,
    daysSince: part === null ? null : daysBetween(part.fittedOn, today),
    litresPerDay: usualLitresPerDay({ media: 'softener', fittedOn: today, rated: {}, site: { people: Math.max(1, people), source } }),
    hardnessMgL: hardnessInMgL,
  })
  return [
    {
      kind: 'stage-reading',
      ...at(place),
      systemId: stop.system.id,
      stageId,
      phase: 'after',
      ...NOTHING_READ,
      hardnessInMgL,
      hardnessOutMgL,
      saltKg,
      supersedes: state.stageReadings.get(readingKey('after', stageId))?.id ?? null,
    },
    {
      ...fittingFact(place, stageId, say`Salt, ${saltKg} kg`),
      partId: null,
      rated: { days, litres: null, milliequivalents: null, hours: null },
    },
  ]
}

/** The part that went in, where no step of a sheet asked for it. */
export const recordFitting = (place: VisitPlace, stageId: string, typed: string) => record(fittingFact(place, stageId, typed))

/** A hold begins when the customer is told of it. */
const holdFact = (place: VisitPlace, { kind, hours, text }: SheetHold): NewFact => ({
  kind: 'hold-begun',
  ...at(place),
  holdKind: kind,
  until: new Date(Date.now() + hours * 3_600_000).toISOString(),
  text,
})

/** The ticks of these steps, taken back: of a block the others stay. */
function untick(place: VisitPlace, steps: readonly SheetStep[]): NewFact[] {
  const { state } = place
  const keys = new Set(steps.map(({ key }) => key))
  const blocks = [...state.blocks.values()].flatMap((block): NewFact[] => {
    const rest = block.steps.filter(({ stepKey }) => !keys.has(stepKey))
    if (rest.length === block.steps.length) return []
    const voided = rest.length === 0
    return [{ kind: 'block-done', ...at(place), block: block.block, steps: voided ? block.steps : rest, supersedes: block.id, voided }]
  })
  const ticked = steps.flatMap((step): NewFact[] => {
    const doneId = state.done.get(step.key)
    return doneId === undefined || state.blocks.has(doneId) ? [] : [{ ...tick(place, step), supersedes: doneId, voided: true }]
  })
  return [...blocks, ...ticked]
}

/** Takes ticks back, together with what was recorded by them; the book shows both. */
export function takeBack(place: VisitPlace, ...steps: SheetStep[]) {
  const { state } = place
  const facts = untick(place, steps)
  for (const step of steps) {
    const stageId = step.at[0] ?? ''
    const removed = step.verb === 'inspect' ? state.removed.get(stageId) : undefined
    if (removed) facts.push(undone(place, removed))
    const fitted = step.verb === 'fit' ? state.fitted.get(stageId) : undefined
    if (fitted) facts.push(undone(place, fitted))
    const hold = step.verb === 'hold' ? state.holds.find(({ holdKind }) => holdKind === step.to) : undefined
    if (hold) facts.push(undone(place, hold))
  }
  return facts.length > 0 ? record(...facts) : Promise.resolve([])
}

/** The same fact again, taken back. */
function undone(place: VisitPlace, { id, at: _at, seq: _seq, ...fact }: PartRemoved | PartFitted | HoldBegun): NewFact {
  return { ...fact, ...at(place), supersedes: id, voided: true }
}
