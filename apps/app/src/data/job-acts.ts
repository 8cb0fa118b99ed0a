import type { StageDto } from '@evenround/contract/site'
import type { JobPlan } from '@evenround/core/disinfection'
import type { JobStep } from '@evenround/core/job'
import { CONTACT_END_KEY, chemicalsPossible, type JobHold, outletKey, proofFor, REDOSE } from '@evenround/core/job'
import type { HoldKind } from '@evenround/core/train'
import {
  chose,
  done,
  type JobDayEnded,
  leftOut,
  type SampleResult,
  type SampleTaken,
  type StepResult,
  type StripRead,
} from '@evenround/core/visit'
import type { FoundGrade } from '@evenround/core/wear'
import { caution, say } from '@evenround/core/words'
import { type FittedAt, partFitted, partRemoved } from './fitting'
import type { Job } from './job'
import { type NewFact, record } from './outbox'

/** Which job, where. */
export interface JobPlace {
  id: string
  siteId: string
}

const at = ({ id, siteId }: JobPlace) => ({ siteId, visitId: id })
const tick = (place: JobPlace, stepKey: string, result: StepResult = done()): NewFact => ({
  kind: 'step-done',
  ...at(place),
  stepKey,
  verb: null,
  stageId: null,
  ...result,
})

export const planJob = (place: JobPlace, plan: JobPlan, supersedes: string | null) =>
  record({ kind: 'job-planned', ...at(place), plan, supersedes })

export const tickJob = (place: JobPlace, stepKey: string, result?: StepResult) => record(tick(place, stepKey, result))

export const takeJobTickBack = (place: JobPlace, job: Job, step: JobStep) => {
  const ticked = job.state.done.get(step.key)
  const facts: NewFact[] = ticked ? [{ ...tick(place, step.key, ticked), supersedes: ticked.id, voided: true }] : []
  const dosed = job.state.doses.find(({ stepKey }) => stepKey === step.key)
  if (dosed)
    facts.push({
      kind: 'chlorine-dosed',
      ...at(place),
      stepKey: step.key,
      amount: dosed.amount,
      unit: dosed.unit,
      supersedes: dosed.id,
      voided: true,
    })
  return facts.length > 0 ? record(...facts) : Promise.resolve([])
}

export const startJobClock = (place: JobPlace, step: JobStep) =>
  record({ kind: 'timer-started', ...at(place), stepKey: step.key, seconds: Math.max(1, Math.round((step.minutes ?? 1) * 60)) })

export const recordDose = (place: JobPlace, stepKey: string, amount: number, unit: 'mL' | 'g') =>
  record({ kind: 'chlorine-dosed', ...at(place), stepKey, amount, unit }, tick(place, stepKey))

/** A new part in its place: what came out, as it was found, and what went in. Where nobody graded it nothing is said of it. */
export const fitInJob = (
  place: JobPlace,
  stepKey: string,
  stage: StageDto,
  partNumber: string,
  found: FoundGrade | null,
  by: Pick<FittedAt, 'today' | 'person'>,
) =>
  record(
    ...(found === null ? [] : [partRemoved(at(place), stage.id, { found, dirtPast: null }, null)]),
    partFitted({ ...at(place), ...by }, stage, partNumber, null),
    tick(place, stepKey, chose(partNumber)),
  )

/** A dose on top, while the clock runs. */
export const recordRedose = (place: JobPlace, amount: number, unit: 'mL' | 'g') =>
  record({ kind: 'chlorine-dosed', ...at(place), stepKey: REDOSE, amount, unit })

type Read = Pick<StripRead, 'place' | 'purpose' | 'range' | 'mgL' | 'dilution'>
export const recordStrip = (place: JobPlace, read: Read) => record({ kind: 'strip-read', ...at(place), method: 'strip', ...read })
export const recordSmell = (place: JobPlace, outletId: string) =>
  record({ kind: 'strip-read', ...at(place), place: outletId, purpose: 'arrival', method: 'smell', range: 'high', mgL: null, dilution: 1 })
export const leaveOutlet = (place: JobPlace, outletId: string, reason: string) => record(tick(place, outletKey(outletId), leftOut(reason)))

export const endContact = (place: JobPlace, reason: string | null) => record(tick(place, CONTACT_END_KEY, done(reason)))

const holdBegun = (place: JobPlace, holdKind: HoldKind, text: string): NewFact => ({
  kind: 'hold-begun',
  ...at(place),
  holdKind,
  until: null,
  text,
})
export const HOLD_TEXT = {
  'do-not-use': caution`Strong chlorine stands in the pipes: do not drink, wash, cook or water with it. Mind infants, dialysis, aquariums, livestock, dental and medical equipment.`,
  'boil-or-bottled': caution`Boiled or bottled water for drinking, teeth, infants, dishes and ice until the laboratory finds no coliforms. Mind dialysis and medical equipment: ask who runs it.`,
  chemicals: caution`Bottled water only, for drinking, cooking, teeth, infants and ice: fuel or chemicals may have come in with the flood. Boiling does not take them out.`,
  'e-coli-and-chemicals': caution`E. coli was found, and chemicals cannot be ruled out: bottled water only, for everything that is drunk, eaten or washed in. Boiling does not help.`,
  'do-not-drink': caution`E. coli was found: do not drink it. Bottled water, or boiled for a minute unless something else rules boiling out, for drinking, teeth, infants, dishes and ice.`,
} as const

/** The household was told: the hold begins with the tick. */
export const beginJobHold = (place: JobPlace, stepKey: string, hold: JobHold) =>
  record(holdBegun(place, hold === 'chemicals' ? 'do-not-drink' : hold, HOLD_TEXT[hold]), tick(place, stepKey))

/** Holds that are still on, of this job and of the ones it repeats. */
function openHolds({ state, page }: Pick<Job, 'state' | 'page'>): { id: string; holdKind: HoldKind }[] {
  const earlier = (page?.holds ?? []).filter(({ id }) => page?.earlierHolds.includes(id))
  const own = state.holds.filter(({ id }) => !earlier.some((one) => one.id === id))
  return [...own, ...earlier].filter(({ id }) => !state.lifted.has(id))
}

/** Lifts the holds that the job's strips or its result prove over. */
function proven(place: JobPlace, job: Job, kinds: readonly HoldKind[]): NewFact[] {
  return openHolds(job)
    .filter(({ holdKind }) => kinds.includes(holdKind))
    .flatMap((hold): NewFact[] => {
      const proof = proofFor(job.state, hold)
      return proof === null ? [] : [{ kind: 'hold-lifted', ...at(place), holdId: hold.id, proof }]
    })
}

/** What stands although the job proves it over: the phone that ended it may not have known of an earlier job's hold. */
export const holdsLeft = (place: JobPlace, job: Job): NewFact[] =>
  job.state.stand === 'clean' || job.state.stand === 'flushed' ? proven(place, job, ['do-not-use', 'boil-or-bottled', 'do-not-drink']) : []
export const liftLeft = (place: JobPlace, job: Job) => record(...holdsLeft(place, job))

/** The flush day is over: what the strips prove is lifted; what the sample has to prove goes on. */
export const endFlushDay = (place: JobPlace, job: Job, note: string) =>
  record(...proven(place, job, ['do-not-use']), { kind: 'job-day-ended', ...at(place), day: 'flush', outcome: 'done', note })

export const endDay = (place: JobPlace, day: JobDayEnded['day'], outcome: JobDayEnded['outcome'], note: string) =>
  record({ kind: 'job-day-ended', ...at(place), day, outcome, note })

type Taken = Pick<SampleTaken, 'bottle' | 'laboratory' | 'place' | 'dechlorinating' | 'chlorineMgL'>
export const recordSample = (place: JobPlace, taken: Taken) =>
  record(
    { kind: 'sample-taken', ...at(place), ...taken },
    { kind: 'job-day-ended', ...at(place), day: 'sample', outcome: 'done', note: '' },
  )

type Result = Pick<SampleResult, 'sampleId' | 'totalColiform' | 'eColi' | 'others' | 'reportNumber' | 'day'>
/** A clean result lifts what waited for it; E. coli makes the hold stricter, at once. */
export const recordResult = (place: JobPlace, job: Job, result: Result) => {
  const clean = result.totalColiform === 'absent' && result.eColi === 'absent'
  const open = openHolds(job).filter(({ holdKind }) => holdKind !== 'do-not-use')
  // No count of germs says anything of fuel: that hold goes on until somebody with the right lifts it.
  const chemicals = chemicalsPossible(job.state)
  const lifted = clean
    ? open
        .filter(({ holdKind }) => !(chemicals && holdKind === 'do-not-drink'))
        .map(
          ({ id }): NewFact => ({
            kind: 'hold-lifted',
            ...at(place),
            holdId: id,
            proof: say`laboratory report ${result.reportNumber}, no coliforms`,
          }),
        )
    : []
  const stricter =
    result.eColi === 'present' && !open.some(({ holdKind }) => holdKind === 'do-not-drink')
      ? [holdBegun(place, 'do-not-drink', HOLD_TEXT[chemicals ? 'e-coli-and-chemicals' : 'do-not-drink'])]
      : []
  return record({ kind: 'sample-result', ...at(place), ...result }, ...lifted, ...stricter)
}
