import type { DisinfectionPage } from '@evenround/contract/disinfections'
import { jobFigures, jobState, jobSteps } from '@evenround/core/job'
import type { Fact } from '@evenround/core/visit'
import { serverThat, until } from '../testing/device'
import { JOB_PLAN } from '../testing/job'
import { stopWith } from '../testing/stop'
import type { Job } from './job'
import {
  beginJobHold,
  endContact,
  endDay,
  endFlushDay,
  HOLD_TEXT,
  holdsLeft,
  leaveOutlet,
  liftLeft,
  planJob,
  recordDose,
  recordResult,
  recordSample,
  recordSmell,
  recordStrip,
  startJobClock,
  takeJobTickBack,
  tickJob,
} from './job-acts'
import { openOutbox, useOutbox } from './outbox'

const PLACE = { id: 'job', siteId: 'site' }
const figures = jobFigures(JOB_PLAN)
const steps = jobSteps(JOB_PLAN, figures, [])
const { site, system } = stopWith('under-sink-3', [1])

beforeEach(async () => {
  serverThat(() => 'no network')
  await openOutbox(`firm/${Math.random()}`)
  await until(() => useOutbox.getState().loaded)
})
const written = (): Fact[] => useOutbox.getState().entries.map(({ fact }) => fact)
const kinds = (): string[] => written().map(({ kind }) => kind)
/** The job as it stands with what was written so far, and with holds that an earlier job left. */
function job(earlier: DisinfectionPage['holds'] = []): Job {
  const page: DisinfectionPage = {
    id: 'job',
    site,
    systems: [system],
    holds: earlier,
    earlierHolds: earlier.map(({ id }) => id),
    facts: [],
    people: [],
    earlierPositives: 0,
    acid: [],
  }
  return { state: jobState(written()), page, plan: JOB_PLAN, figures, guarded: [], steps, ready: true, known: true, error: null }
}
const strip = (purpose: 'arrival' | 'contact' | 'flush', mgL: number) =>
  recordStrip(PLACE, { place: 'tap', purpose, range: purpose === 'flush' ? 'low' : 'high', mgL, dilution: 1 })
const EARLIER = { id: 'old', holdKind: 'boil-or-bottled' as const, begunAt: '2026-11-20T10:00:00.000Z', until: null, text: '' }

test('a plan is a fact, and a better one corrects it', async () => {
  const [first] = await planJob(PLACE, JOB_PLAN, null)
  await planJob(PLACE, { ...JOB_PLAN, contactHours: 24 }, first?.id ?? null)
  expect(job().state.plan?.contactHours).toBe(24)
})

test('a dose is its amount and its tick; taken back, both are', async () => {
  await planJob(PLACE, JOB_PLAN, null)
  const step = steps.find(({ key }) => key.startsWith('dose/'))
  if (!step) throw new Error('the job has no dose')
  await recordDose(PLACE, step.key, 105, 'mL')
  expect(job().state.doses).toMatchObject([{ stepKey: step.key, amount: 105, unit: 'mL' }])
  expect(job().state.done.has(step.key)).toBe(true)
  await takeJobTickBack(PLACE, job(), step)
  expect([job().state.doses, job().state.done.has(step.key)]).toEqual([[], false])
  const before = written().length
  await takeJobTickBack(PLACE, job(), step)
  expect(written()).toHaveLength(before)
})

test('a clock runs at least a second', async () => {
  const [step] = steps
  if (!step) throw new Error('the job has no steps')
  await startJobClock(PLACE, { ...step, minutes: 0.001 })
  expect(written()).toMatchObject([{ kind: 'timer-started', seconds: 1 }])
})

test('smelled is not measured, and an outlet that is left says why', async () => {
  await planJob(PLACE, JOB_PLAN, null)
  await recordSmell(PLACE, 'tap')
  expect(job().state.outlets).toMatchObject([{ arrival: 'unconfirmed' }])
  await leaveOutlet(PLACE, 'tap', 'it is capped')
  expect(job().state.outlets).toMatchObject([{ arrival: 'left' }])
})

test('the household is told: the hold begins with the words of its kind, and the flushed strips lift it', async () => {
  await planJob(PLACE, JOB_PLAN, null)
  await beginJobHold(PLACE, 'ready/tell', 'do-not-use')
  expect(job().state.holds).toMatchObject([{ holdKind: 'do-not-use', text: HOLD_TEXT['do-not-use'], until: null }])
  await strip('arrival', 50)
  await strip('contact', 45)
  await endContact(PLACE, 'the household needs water tonight')
  await endFlushDay(PLACE, job(), '')
  // Nothing shows yet that the chlorine is out: the hold stands.
  expect(kinds()).not.toContain('hold-lifted')
  await strip('flush', 0)
  await endFlushDay(PLACE, job(), '')
  expect(written().filter(({ kind }) => kind === 'hold-lifted')).toHaveLength(1)
})

const RESULT = { sampleId: 'sample', others: [], reportNumber: 'SWL-1', day: '2026-12-02' }
test('a clean result lifts what waited for it, the hold of the job before as well', async () => {
  await planJob(PLACE, JOB_PLAN, null)
  await beginJobHold(PLACE, 'ready/boil', 'boil-or-bottled')
  await recordSample(PLACE, {
    bottle: 'B1',
    laboratory: 'Skellan Water Laboratory',
    place: 'Kitchen',
    dechlorinating: false,
    chlorineMgL: 0,
  })
  expect(kinds().slice(-2)).toEqual(['sample-taken', 'job-day-ended'])
  await recordResult(PLACE, job([EARLIER]), { ...RESULT, totalColiform: 'absent', eColi: 'absent' })
  const lifted = written().flatMap((fact) => (fact.kind === 'hold-lifted' ? [fact] : []))
  expect(lifted).toHaveLength(2)
  expect(lifted.every(({ proof }) => proof === 'laboratory report SWL-1, no coliforms')).toBe(true)
  expect(lifted.map(({ holdId }) => holdId)).toContain('old')
})

test('a hold of the job before, which the phone that entered the result did not know of, is lifted afterwards by the same proof', async () => {
  await planJob(PLACE, JOB_PLAN, null)
  await strip('arrival', 50)
  const [taken] = await recordSample(PLACE, {
    bottle: 'B1',
    laboratory: 'Skellan Water Laboratory',
    place: 'Kitchen',
    dechlorinating: false,
    chlorineMgL: 0,
  })
  expect(holdsLeft(PLACE, job([EARLIER]))).toEqual([])
  await recordResult(PLACE, job(), { ...RESULT, sampleId: taken?.id ?? '', totalColiform: 'absent', eColi: 'absent' })
  expect(kinds()).not.toContain('hold-lifted')
  await liftLeft(PLACE, job([EARLIER]))
  expect(written().at(-1)).toMatchObject({ kind: 'hold-lifted', holdId: 'old', proof: 'laboratory report SWL-1, no coliforms' })
  expect(holdsLeft(PLACE, job([EARLIER]))).toEqual([])
})

test('E. coli makes the hold stricter at once, and only once; coliforms alone leave it', async () => {
  await planJob(PLACE, JOB_PLAN, null)
  await recordResult(PLACE, job(), { ...RESULT, totalColiform: 'present', eColi: 'absent' })
  expect(kinds()).not.toContain('hold-begun')
  await recordResult(PLACE, job(), { ...RESULT, totalColiform: 'present', eColi: 'present' })
  await recordResult(PLACE, job(), { ...RESULT, totalColiform: 'present', eColi: 'present' })
  const begun = written().flatMap((fact) => (fact.kind === 'hold-begun' ? [fact] : []))
  expect(begun).toMatchObject([{ holdKind: 'do-not-drink', text: HOLD_TEXT['do-not-drink'] }])
})

test('a day ends as it ended, with a note', async () => {
  await tickJob(PLACE, 'ready/guard')
  await endDay(PLACE, 'dose', 'stopped', 'no power')
  expect(written().at(-1)).toMatchObject({ kind: 'job-day-ended', day: 'dose', outcome: 'stopped', note: 'no power' })
})
