import type { StopDto } from '@evenround/contract/site'
import type { SheetHold, SheetStep, SurpriseId } from '@evenround/core/train'
import { done, markText, type StepResult, type VisitState } from '@evenround/core/visit'
import type { FoundGrade } from '@evenround/core/wear'
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

const at = ({ stop, visitId }: VisitPlace) => ({ siteId: stop.site.id, visitId })

const tick = (place: VisitPlace, step: SheetStep, result: StepResult = done()): NewFact => ({
  kind: 'step-done',
  ...at(place),
  stepKey: step.key,
  verb: step.verb,
  stageId: place.stop.system.stages.find(({ id }) => id === step.at[0])?.id ?? null,
  ...result,
})

/** Ticks a step off, with how it came out. */
export const doneStep = (place: VisitPlace, step: SheetStep, result?: StepResult) => record(tick(place, step, result))

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

/** A hold is over: the customer knows, and what it rests on is said. */
export const liftHold = (siteId: string, visitId: string, holdId: string, proof: string) =>
  record({ kind: 'hold-lifted', siteId, visitId, holdId, proof })

/** Starts the clock of a step: a fact, so that it goes on through a reload and on another device. */
export const startTimer = (place: VisitPlace, step: SheetStep) =>
  record({ kind: 'timer-started', ...at(place), stepKey: step.key, seconds: Math.round(step.minutes * 60) })

/** What came out, and the tick. */
export function recordFinding(place: VisitPlace, step: SheetStep, stageId: string, { found, dirtPast }: Finding) {
  if (found === null) throw new RangeError('a finding needs a grade')
  const earlier = place.state.removed.get(stageId)
  return record({ kind: 'part-removed', ...at(place), stageId, found, dirtPast, supersedes: earlier?.id ?? null }, tick(place, step))
}

const NOT_RATED = { days: null, litres: null, milliequivalents: null, hours: null }

/** The part that went in, with the figures it was rated at, and the tick of its step where a sheet has one. */
export function recordFitting(place: VisitPlace, step: SheetStep | null, stageId: string, typed: string) {
  const stage = place.stop.system.stages.find(({ id }) => id === stageId)
  if (!stage) throw new RangeError(`no stage ${stageId}`)
  const next = stage.nextPart
  const known =
    next === null ? undefined : [next, ...next.equivalents].find((part) => part.partNumber.toLowerCase() === typed.toLowerCase())
  const partNumber = known?.partNumber ?? typed
  const earlier = place.state.fitted.get(stageId)
  const mark = markText({ position: stage.position, partNumber, day: place.today, person: place.person })
  return record(
    {
      kind: 'part-fitted',
      ...at(place),
      stageId,
      partId: known?.id ?? null,
      partNumber,
      position: stage.position,
      markText: mark,
      dateKnown: true,
      // A part the catalogue does not know here is rated like the one expected.
      rated: known?.rated ?? next?.rated ?? stage.part?.rated ?? NOT_RATED,
      supersedes: earlier?.id ?? null,
    },
    ...(step ? [tick(place, step)] : []),
  )
}

/** A hold begins when the customer is told of it. */
export function beginHold(place: VisitPlace, step: SheetStep, hold: SheetHold) {
  const until = new Date(Date.now() + hold.hours * 3_600_000).toISOString()
  return record({ kind: 'hold-begun', ...at(place), holdKind: hold.kind, until, text: hold.text }, tick(place, step))
}

/** Takes a tick back, together with what was recorded by it; the book shows both. */
export function takeBack(place: VisitPlace, step: SheetStep) {
  const { state } = place
  const facts: NewFact[] = []
  const doneId = state.done.get(step.key)
  if (doneId !== undefined) facts.push({ ...tick(place, step), supersedes: doneId, voided: true })
  const stageId = step.at[0] ?? ''
  const removed = step.verb === 'inspect' ? state.removed.get(stageId) : undefined
  if (removed)
    facts.push({
      kind: 'part-removed',
      ...at(place),
      stageId,
      found: removed.found,
      dirtPast: removed.dirtPast,
      supersedes: removed.id,
      voided: true,
    })
  const fitted = step.verb === 'fit' ? state.fitted.get(stageId) : undefined
  if (fitted) {
    const { partId, partNumber, position, markText: mark, dateKnown, rated } = fitted
    facts.push({
      kind: 'part-fitted',
      ...at(place),
      stageId,
      partId,
      partNumber,
      position,
      markText: mark,
      dateKnown,
      rated,
      supersedes: fitted.id,
      voided: true,
    })
  }
  const hold = step.verb === 'hold' ? state.holds.find(({ holdKind }) => holdKind === step.to) : undefined
  if (hold)
    facts.push({
      kind: 'hold-begun',
      ...at(place),
      holdKind: hold.holdKind,
      until: hold.until,
      text: hold.text,
      supersedes: hold.id,
      voided: true,
    })
  return facts.length > 0 ? record(...facts) : Promise.resolve([])
}
