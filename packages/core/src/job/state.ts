import { type ContactResult, contact, FLOOR_MGL } from '../disinfection/contact'
import type { JobOutlet, JobPlan } from '../disinfection/plan'
import type {
  ChlorineDosed,
  Fact,
  HoldBegun,
  JobDayEnded,
  JobPlanned,
  SampleResult,
  SampleTaken,
  StepDone,
  StripRead,
  TimerStarted,
} from '../visit'
import { effectiveFacts } from '../visit/effective'
import { many, say } from '../words'
import { type ContactAsked, contactAsked } from './asked'
import { CLEAR_MGL } from './figures'
import { type Instant, minutesBetween, plusHours } from './instants'
import { arrivedAt } from './outlets'
import { type ResultVerdict, resultVerdict, sampleWindow } from './proof'

/** Where a job stands. `flushed`: done without a sample, so that nothing is proved of germs. */
export const JOB_STANDS = [
  'planned',
  'preparing',
  'spreading',
  'contact',
  'flushing',
  'sample-due',
  'result-due',
  'clean',
  'flushed',
  'positive',
  'e-coli',
  'stopped',
] as const
export type JobStand = (typeof JOB_STANDS)[number]

export interface OutletState {
  outlet: JobOutlet
  /** `unconfirmed`: only a nose says so. `left`: not run, with the reason that was given. */
  arrival: 'waiting' | 'short' | 'unconfirmed' | 'confirmed' | 'left'
  arrivalMgL: number | null
  arrivedAt: Instant | null
  clear: boolean
  clearMgL: number | null
}

export interface Tide {
  from: Instant
  earliestEnd: Instant
  /** The weakest place's strips, minutes since the clock began. */
  points: { minute: number; mgL: number; at: Instant }[]
  /** Null before its second strip. */
  result: ContactResult | null
  /** The place that decides: an outlet's id or `entry`. */
  place: string
  /** The outlet that began weakest and was not read since, while others were: it has to be read before the contact is judged. */
  unread: string | null
  /** Sulphide or ammonia eat it fast: when the first strip of the contact is wanted; null where none is wanted early, or it was read. */
  earlyAt: Instant | null
  /** What its contact has to come to, in this water. */
  asked: ContactAsked
}

export interface JobState {
  planned: JobPlanned | null
  plan: JobPlan | null
  /** Step key → the fact that ticked it, the first of several. */
  done: Map<string, StepDone>
  timers: Map<string, TimerStarted>
  doses: ChlorineDosed[]
  strips: StripRead[]
  outlets: OutletState[]
  tide: Tide | null
  /** The contact was ended: by what strips showed, or all the same with a reason. */
  contactEnded: { at: Instant; passed: boolean; reason: string | null } | null
  flushedAt: Instant | null
  sample: SampleTaken | null
  /** When a sample is worth taking; null before the flush ended. */
  window: { from: Instant; to: Instant } | null
  results: SampleResult[]
  verdict: ResultVerdict | null
  holds: HoldBegun[]
  lifted: Set<string>
  ended: Map<JobDayEnded['day'], JobDayEnded>
  stand: JobStand
  conflicts: string[]
}

export const CONTACT_END_KEY = 'contact/end'
export const FLOOD_KEY = 'ready/flood'
export const outletKey = (id: string): string => `spread/out-${id}`
export const clearKey = (id: string): string => `flush/out-${id}`

const inOrder = (facts: readonly Fact[]): Fact[] => [...facts].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : a.seq - b.seq))

/** The step of a dose that comes on top, while the clock runs. */
export const REDOSE = 'redose'
/** A step's dose goes in once, however often it was tapped or by how many phones; what comes on top counts each time. */
function onceEach(doses: ChlorineDosed[]): ChlorineDosed[] {
  const seen = new Set<string>()
  return doses.filter(({ stepKey }) => {
    if (stepKey === REDOSE) return true
    const fresh = !seen.has(stepKey)
    seen.add(stepKey)
    return fresh
  })
}

/** What counts as out again: the supply's own level where it has one, else half a milligram. */
export const clearLimit = (plan: JobPlan): number => (plan.supply === 'municipal' ? Math.max(CLEAR_MGL, plan.supplyMgL) : CLEAR_MGL)

function outletState(plan: JobPlan, outlet: JobOutlet, strips: readonly StripRead[], done: JobState['done']): OutletState {
  const left = done.get(outletKey(outlet.id))?.outcome === 'left-out'
  const here = strips.filter(({ place, purpose }) => place === outlet.id && purpose === 'arrival')
  const enough = here.find(({ mgL }) => mgL !== null && arrivedAt(mgL, plan.targetMgL))
  const last = here.filter(({ mgL }) => mgL !== null).at(-1) ?? null
  const smelt = here.some(({ method }) => method === 'smell')
  const flushed = strips.filter(({ place, purpose }) => place === outlet.id && purpose === 'flush').at(-1)
  const cleared = flushed?.mgL !== undefined && flushed.mgL !== null && flushed.mgL <= clearLimit(plan)
  return {
    outlet,
    arrival: enough ? 'confirmed' : left ? 'left' : last ? 'short' : smelt ? 'unconfirmed' : 'waiting',
    arrivalMgL: enough?.mgL ?? last?.mgL ?? null,
    arrivedAt: enough?.at ?? null,
    // One that nobody ran is not proved by that; one that had some of the dose has to be run clear all the same.
    clear: (left && !here.some(({ mgL }) => mgL !== null && mgL > clearLimit(plan))) || cleared,
    clearMgL: flushed?.mgL ?? null,
  }
}

/** Strips of one place from the clock's start on: what it had on arrival stands at its beginning. */
function pointsAt(place: string, from: Instant, start: number, strips: readonly StripRead[]): Tide['points'] {
  const points = [{ minute: 0, mgL: start, at: from }]
  for (const { at, mgL, purpose, place: where } of strips) {
    if (purpose !== 'contact' || where !== place || mgL === null) continue
    const minute = minutesBetween(from, at)
    if (minute > (points.at(-1) as { minute: number }).minute) points.push({ minute, mgL, at })
  }
  return points
}

const WORST: readonly (ContactResult['verdict'] | undefined)[] = ['redose', 'extend', 'pass', undefined]
/** What asks for most comes first; of places that ask for the same, the one with the least contact. */
const weaker = (one: { result: ContactResult | null }, two: { result: ContactResult | null }): number =>
  WORST.indexOf(one.result?.verdict) - WORST.indexOf(two.result?.verdict) ||
  (one.result?.achievedMgMinL ?? 0) - (two.result?.achievedMgMinL ?? 0)

/** Minutes after which chlorine that sulphide or ammonia eat is read again. */
const EARLY_MIN = 30
const eatsFast = ({ demand }: JobPlan): boolean => demand.sulphideMgL > 0 || demand.ammoniaNMgL > 0

/**
 * The clock begins when the last outlet is confirmed. The weakest of all it began with decides: the outlet that began lowest stays the
 * one until it, or one that began as low, is read again; after that the place whose own strips ask for most.
 */
function tideOf(plan: JobPlan, outlets: readonly OutletState[], strips: readonly StripRead[]): Tide | null {
  if (outlets.length === 0 || outlets.some(({ arrival }) => arrival !== 'confirmed' && arrival !== 'left')) return null
  const confirmed = outlets.filter(({ arrivedAt: at }) => at !== null)
  const from = confirmed.reduce<Instant | null>((last, { arrivedAt: at }) => (last === null || (at as string) > last ? at : last), null)
  if (from === null) return null
  const weakest = Math.min(...confirmed.map(({ arrivalMgL }) => arrivalMgL as number))
  const places = [...new Set(strips.flatMap(({ purpose, place }) => (purpose === 'contact' ? [place] : [])))]
  const judged = places.map((place) => {
    const start = confirmed.find(({ outlet }) => outlet.id === place)?.arrivalMgL ?? weakest
    const points = pointsAt(place, from, start, strips)
    const result =
      points.length < 2
        ? null
        : contact({
            strips: points,
            targetMgL: plan.targetMgL,
            minimumHours: plan.contactHours,
            floorMgL: FLOOR_MGL,
            ph: plan.pH,
            waterC: plan.waterC,
          })
    return { place, points, result }
  })
  const read = judged.filter(({ points }) => points.length > 1)
  const lowest = confirmed.filter(({ arrivalMgL }) => arrivalMgL === weakest).map(({ outlet }) => outlet.id)
  const began = lowest[0] as string
  const unread = read.length > 0 && !read.some(({ place }) => lowest.includes(place)) ? began : null
  const worst = judged.sort(weaker)[0]
  const asked = contactAsked(plan)
  const decides = unread === null ? worst : null
  return {
    from,
    earliestEnd: plusHours(from, asked.hours),
    points: decides?.points ?? [{ minute: 0, mgL: weakest, at: from }],
    result: decides?.result ?? null,
    place: decides?.place ?? began,
    unread,
    earlyAt: eatsFast(plan) && read.length === 0 ? plusHours(from, EARLY_MIN / 60) : null,
    asked,
  }
}

function standOf(state: Omit<JobState, 'stand'>): JobStand {
  const { plan, outlets, tide, contactEnded, flushedAt, sample, verdict, ended } = state
  if (ended.get('job') || state.planned === null || plan === null) return 'stopped'
  if (verdict === 'clean') return 'clean'
  if (verdict !== null) return verdict
  if (sample) return 'result-due'
  if (flushedAt !== null) return plan.sample ? 'sample-due' : 'flushed'
  if (contactEnded) return 'flushing'
  if (tide) return 'contact'
  if (outlets.some(({ arrival }) => arrival !== 'waiting') || state.doses.length > 0) return 'spreading'
  return state.done.size > 0 ? 'preparing' : 'planned'
}

/** Folds a job's facts, in any order and with repeats, into where it stands; the same on every device. */
export function jobState(facts: readonly Fact[]): JobState {
  const unique = [...new Map(facts.map((fact) => [fact.id, fact])).values()]
  const { facts: counting, conflicts } = effectiveFacts(unique)
  const ordered = inOrder(counting)
  const of = <K extends Fact['kind']>(kind: K): Extract<Fact, { kind: K }>[] =>
    ordered.filter((fact): fact is Extract<Fact, { kind: K }> => fact.kind === kind)
  const planned = of('job-planned').at(-1) ?? null
  const plan = planned?.plan ?? null
  const done = new Map<string, StepDone>()
  for (const fact of of('step-done')) if (!done.has(fact.stepKey)) done.set(fact.stepKey, fact)
  const timers = new Map(of('timer-started').map((fact) => [fact.stepKey, fact]))
  const ended = new Map(of('job-day-ended').map((fact) => [fact.day, fact]))
  const strips = of('strip-read')
  const outlets = plan ? plan.outlets.map((outlet) => outletState(plan, outlet, strips, done)) : []
  const tide = plan ? tideOf(plan, outlets, strips) : null
  const end = done.get(CONTACT_END_KEY)
  const sample = of('sample-taken').at(-1) ?? null
  const results = of('sample-result').filter(({ sampleId }) => sampleId === sample?.id)
  const result = results.at(-1)
  const flush = ended.get('flush')
  const flushedAt = flush?.outcome === 'done' ? flush.at : null
  const state: Omit<JobState, 'stand'> = {
    planned,
    plan,
    done,
    timers,
    doses: onceEach(of('chlorine-dosed')),
    strips,
    outlets,
    tide,
    contactEnded: end ? { at: end.at, passed: tide?.result?.verdict === 'pass', reason: end.note } : null,
    flushedAt,
    sample,
    window: flushedAt === null ? null : sampleWindow(flushedAt),
    results,
    verdict: result ? resultVerdict(result) : null,
    holds: of('hold-begun'),
    lifted: new Set(of('hold-lifted').map(({ holdId }) => holdId)),
    ended,
    conflicts,
  }
  return { ...state, stand: standOf(state) }
}

/** Every outlet that had the dose was run until its strip showed the chlorine out, and at least one was. */
export const isFlushed = ({ outlets }: Pick<JobState, 'outlets'>): boolean =>
  outlets.every(({ clear }) => clear) && outlets.some(({ clearMgL }) => clearMgL !== null)

/** Fuel or chemicals may have come in with a flood: so until somebody ruled them out at the door. */
export const chemicalsPossible = ({ plan, done }: Pick<JobState, 'plan' | 'done'>): boolean =>
  plan?.reason === 'flood' && done.get(FLOOD_KEY)?.choice !== 'no'

/** Outlets that nobody ran: no strip speaks for them. */
export const notProved = ({ outlets }: Pick<JobState, 'outlets'>): OutletState[] =>
  outlets.filter(({ arrival, clearMgL }) => arrival === 'left' && clearMgL === null)

/** What a hold of this job may be lifted on, in words for the record; null while there is no proof. */
export function proofFor(state: JobState, hold: Pick<HoldBegun, 'holdKind'>): string | null {
  if (hold.holdKind === 'do-not-use') {
    if (!isFlushed(state)) return null
    const strips = state.outlets.flatMap(({ clearMgL }) => (clearMgL === null ? [] : [clearMgL]))
    const names = notProved(state).map(({ outlet }) => outlet.name)
    const rest = names.length > 0 ? say`; not run, so not proved: ${names.join(', ')}` : ''
    return say`strips at ${many(strips.length, 'outlet', 'outlets')}, at most ${Math.max(...strips)} mg/L${rest}`
  }
  const result = state.results.at(-1)
  // No count of germs says anything of fuel: that hold is lifted by somebody with the right, on a laboratory's word for it.
  if (hold.holdKind === 'do-not-drink' && chemicalsPossible(state)) return null
  return state.verdict === 'clean' && result ? say`laboratory report ${result.reportNumber}, no coliforms` : null
}

/**
 * Free chlorine the water holds by the last strip of each place, the highest of them, with what was added since; mg/L. Null while nobody
 * has read one. `dosing`: all water of the job, litres, and what one mL or g of the product holds, mg.
 */
export function standsMgL(
  { plan, outlets, strips, doses }: Pick<JobState, 'plan' | 'outlets' | 'strips' | 'doses'>,
  dosing: { totalL: number; available: number },
): number | null {
  if (plan === null) return null
  const held = [...outlets.map(({ outlet }) => outlet.id), 'entry'].flatMap((place) => {
    const last = strips.findLast(
      (one) => one.place === place && one.mgL !== null && (one.purpose === 'arrival' || one.purpose === 'contact'),
    )
    if (!last) return []
    const since = doses.filter(({ stepKey, at }) => stepKey === REDOSE && at > last.at).reduce((sum, { amount }) => sum + amount, 0)
    return [(last.mgL as number) + (dosing.totalL > 0 ? (since * dosing.available) / dosing.totalL : 0)]
  })
  return held.length > 0 ? Math.max(...held) : null
}

export type NextAct = { act: 'dose' | 'strip' | 'flush' | 'sample' | 'result' | 'cause'; from: Instant | null; to: Instant | null }

/** What comes next, and when: the earlier day's actual end decides the later one's window. */
export function nextAct(state: JobState): NextAct | null {
  switch (state.stand) {
    case 'planned':
    case 'preparing':
    case 'spreading':
      return { act: 'dose', from: null, to: null }
    case 'contact':
      return {
        act: state.tide?.result?.verdict === 'pass' ? 'flush' : 'strip',
        from: state.tide?.earlyAt ?? state.tide?.earliestEnd ?? null,
        to: null,
      }
    case 'flushing':
      return { act: 'flush', from: null, to: null }
    case 'sample-due':
      return { act: 'sample', from: state.window?.from ?? null, to: state.window?.to ?? null }
    case 'result-due':
      return { act: 'result', from: state.sample?.at ?? null, to: null }
    case 'positive':
    case 'e-coli':
      return { act: 'cause', from: null, to: null }
    default:
      return null
  }
}
