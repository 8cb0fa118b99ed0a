import { say } from '../words'
import { inBlocks } from './blocks'
import { type TodaysWork, type WorkChange, workAfter } from './changed'
import { comesTo, goesRound, reactorOf, stagesInFlow } from './graph'
import { chooseIsolation, cutOff, type Isolation } from './isolation'
import { withTwins } from './labels'
import { copyOf, inService, play, type TrainState } from './machine/state'
import { inAllMin } from './minutes'
import { mendLeak } from './phases/again'
import { before, type Stopping, tellDark, tellStop } from './phases/before'
import { asks, benchLines, change, soakOutside } from './phases/change'
import { closeOut, holdsAfter } from './phases/close-out'
import { flushApart } from './phases/flush'
import { catchUnder, isolate, placesOf } from './phases/isolate'
import { lookLast } from './phases/open-up'
import { applianceOf, darken, unplug } from './phases/power'
import { keepOut, restore } from './phases/restore'
import { bypassRound, runBed, SOAK_MOST_HOURS, soakBed, withStanding } from './phases/soak'
import { type Due, dueStages, isWet, nodesOf, outlets, type Plan, planOn, soakHoursOf, soaks, tapsByUse, wantsIsolation } from './plan'
import { answered, goOn } from './resume'
import { withoutSkipped } from './skipped'
import { goesOn, isBeside, soakTurns } from './turns'
import type { Sheet, SheetHold, SheetRefusal, SheetResult, SheetSchools, SheetStep, SheetVisit, Task, Train } from './types'
import { type Flushes, flushesOf } from './ways'
import { Work } from './work'

export interface SheetInput {
  train: Train
  tasks: readonly Task[]
  schools: SheetSchools
  /** Nothing kills germs before the set: what stood open behind a barrier is disinfected before it is drunk from. */
  unchlorinated?: boolean
  /** Where the work stands: ticked steps in the order they were done, and what was answered or found, oldest first. */
  from?: { done?: readonly string[]; answers?: Readonly<Record<string, string>>; changes?: readonly WorkChange[] }
}

const refuse = (reason: SheetRefusal['reason'], text: string): SheetRefusal => ({ ok: false, reason, text })

function planOf(input: SheetInput, { tasks, later, closedOut }: TodaysWork): Plan | SheetRefusal {
  const { schools, unchlorinated = false } = input
  const train = withTwins(input.train)
  const due = dueStages(train, tasks)
  const unknown = tasks.find(({ stage }) => !train.nodes.some((node) => node.id === stage && node.kind === 'stage'))
  if (unknown) return refuse('unknown-stage', say`This train has no stage ${unknown.stage}.`)
  const first = due[0]
  if (!first) return refuse('no-tasks', say`Nothing is chosen to be done here.`)
  const taps = tapsByUse(train)
  const tap = taps.find(({ id }) => due.some(({ stage }) => comesTo(train, stage.id, id))) ?? taps[0]
  if (!tap) return refuse('no-outlet', say`This train shows no tap or other outlet. Add it to the train first.`)
  return planOn(train, schools, {
    due,
    tap: tap.id,
    unchlorinated: unchlorinated && !stagesInFlow(train).some(({ media }) => media === 'chlorine-feed'),
    later,
    closedOut,
  })
}

/** One closing and opening of the set: what is due in it is done, flushed and put back; null where nothing keeps the water away. */
export function session(prefix: string, plan: Plan, due: readonly Due[], bed: Due | undefined, work: Work): boolean {
  const all = plan.due.filter((one) => one === bed || due.includes(one))
  const bench = benchLines(plan, all)
  const opened = all.filter((one) => wantsIsolation(one) || (bench.length > 0 && isWet(one)))
  const wet = all.filter(isWet)
  const flushes = bed ? aroundBed(plan, due, bed) : flushesOf(plan, due)
  const lines = [...bench, ...flushes.apart.flatMap((one) => one.lines)]
  let isolation: Isolation | null = null
  if (opened.length > 0 || flushes.apart.length > 0) {
    isolation = chooseIsolation(
      plan,
      work.state,
      opened.map(({ stage }) => stage),
      lines,
    )
    if (isolation === null) return false
    if (bed) isolation = withStanding(plan, isolation, bed.stage, work)
  }
  darken(`${prefix}isolate`, plan, all, work)
  // Its dispenser lets the water out while it still has power; the vessel waits until it is drawn out.
  const drawnOut = isolation !== null && applianceOf(plan, all) !== null
  if (!drawnOut) unplug(`${prefix}isolate`, plan, all, work)
  const under = placesOf(
    plan.train,
    wet.map(({ stage }) => stage),
    lines,
  )
  if (isolation) isolate(`${prefix}isolate`, plan, isolation, opened, lines, work, null, drawnOut ? [] : under)
  if (drawnOut) unplug(`${prefix}isolate`, plan, all, work)
  if (drawnOut || !isolation) catchUnder(`${prefix}isolate`, under, work)
  change(prefix, plan, all, new Set(flushes.apart[0]?.lines), work)
  if (isolation && flushes.apart.length > 0) {
    // Before the first water: what is flushed last finds the tank shut too.
    for (const { tanksShut } of flushes.taps) for (const id of tanksShut) keepOut(`${prefix}flush-shut`, id, work)
    flushApart(prefix, plan, isolation, flushes.apart, work)
  }
  if (bed && isolation) soakBed(prefix, plan, isolation, bed, all, work)
  if (!bed || due.some(isWet)) restore(prefix, plan, isolation, due, flushes, work)
  return true
}

/** The flushes of what stands about a bed that soaks in its bypass. */
const aroundBed = (plan: Plan, due: readonly Due[], bed: Due): Flushes =>
  flushesOf(plan, due, new Set([bed.stage.id]), new Set([bypassRound(plan, bed.stage) ?? '']))

/** One whole sheet, from the train in service, for these answers. */
function written(plan: Plan): (Sheet & { ok: true }) | null {
  const now = plan.due.filter(({ stage }) => !plan.later.has(stage.id))
  const turns = soakTurns(plan, now.filter(soaks))
  const [beds = []] = turns
  const others = now.filter((one) => !soaks(one))
  const holds = holdsAfter(plan, goesOn(plan, beds))
  const work = new Work(plan.train)
  work.looked = (key) => mendLeak(key, plan, work)
  if (!sessions(plan, others, beds, work)) return null
  const stopping = stoppingOf(plan.train, work.steps)
  const first = beds.length > 0 ? holds.filter(({ kind }) => kind !== 'low-flow') : holds
  const next = turns.slice(1).flat()
  const today = now.filter((one) => !next.includes(one))
  if (plan.closedOut) closeOut('', plan, today, first, work)
  if (!afterwards(plan, work)) return null
  if (plan.closedOut)
    closeOut(
      'more-',
      plan,
      plan.due.filter(({ stage }) => plan.later.has(stage.id)),
      first,
      work,
    )
  else
    closeOut(
      '',
      plan,
      plan.due.filter((one) => !next.includes(one)),
      first,
      work,
    )
  // What is said first is known last: how long the water stops.
  const front = new Work(plan.train)
  before('', plan, front)
  soakOutside('', plan.due, front)
  if (now.some(isWet)) tellStop('', plan, stopping, front)
  else if (now.some(({ stage }) => stage.media === 'uv-lamp')) tellDark('', plan, front)
  asks('', plan.due, front)
  const visits: SheetVisit[] = [{ minGapHoursBefore: 0, steps: [...front.steps, ...work.steps] }]
  for (const [index, soaked] of turns.entries()) {
    const visit = afterSoak(plan, index, soaked, turns[index + 1] ?? [], holds, first, work)
    if (visit === null) return null
    visits.push(visit)
  }
  return { ok: true, visits, holds }
}

/**
 * The visit after a soak: these beds are run, and the next take their turn, where not all can soak at once.
 *
 * @param turn  of which beds: 0 is run at the second visit
 */
function afterSoak(
  plan: Plan,
  turn: number,
  soaked: readonly Due[],
  next: readonly Due[],
  holds: readonly SheetHold[],
  said: readonly SheetHold[],
  work: Work,
): SheetVisit | null {
  const name = turn === 0 ? 'second' : `visit${turn + 2}`
  const ofBed = (index: number): string => `${name}${index === 0 ? '' : turn === 0 ? index + 1 : `bed${index + 1}`}-`
  const done = work.steps.length
  const act = (on: Work): boolean => {
    // As the water runs: each is run with water that the one before has cleared.
    soaked.forEach((bed, index) => void runBed(ofBed(index), plan, bed, on))
    return soakInTurn(plan, next, soaked.length + turn, on)
  }
  before(`${name}-`, plan, work)
  let stopping = SECOND_STOP
  if (isBeside(plan, soaked)) {
    // What is said first is known last: how long the water stops.
    const trial = new Work(plan.train)
    Object.assign(trial.state, copyOf(work.state))
    if (!act(trial)) return null
    stopping = stoppingOf(plan.train, trial.steps, work.state)
  }
  tellStop(`${name}-`, plan, stopping, work)
  if (!act(work)) return null
  lookLast(`${name}-restore`, ([...soaked, ...next].at(-1) as Due).stage.id, work)
  closeOut(
    `${name}-`,
    plan,
    next,
    holds.filter((hold) => !said.includes(hold)),
    work,
  )
  return { minGapHoursBefore: Math.max(...soaked.map(soakHoursOf)), maxGapHoursBefore: SOAK_MOST_HOURS, steps: work.steps.slice(done) }
}

/** What came to the work when the rest was too far on: told, and done in a closing of its own; false where that cannot be. */
function afterwards(plan: Plan, work: Work): boolean {
  const due = plan.due.filter(({ stage }) => plan.later.has(stage.id))
  if (due.length === 0) return true
  // A bed that soaks is another visit.
  if (due.some(soaks)) return false
  const trial = new Work(plan.train)
  Object.assign(trial.state, copyOf(work.state))
  if (!session('more-', plan, due, undefined, trial)) return false
  if (due.some(isWet)) tellStop('more-', plan, stoppingOf(plan.train, trial.steps), work)
  return session('more-', plan, due, undefined, work)
}

/** A bed is run in the house's only way, and nobody draws meanwhile. */
const SECOND_STOP: Stopping = { stopsMin: 60, goesRoundMin: 0 }
/** How long the water stops before a bypass takes it round, and how long that lasts; where it stops and none is turned, throughout. */
function stoppingOf(train: Train, steps: readonly SheetStep[], from: TrainState = inService(train)): Stopping {
  const turned = steps.findIndex(({ verb, to }) => verb === 'turn' && to === 'bypass')
  const stopped = firstStop(train, steps, from)
  if (turned >= 0 && (stopped < 0 || turned <= stopped)) return { stopsMin: 0, goesRoundMin: inAllMin(steps.slice(turned)) }
  if (stopped < 0) return { stopsMin: 0, goesRoundMin: 0 }
  if (turned < 0) return { stopsMin: inAllMin(steps.slice(stopped)), goesRoundMin: 0 }
  return { stopsMin: inAllMin(steps.slice(0, turned)), goesRoundMin: inAllMin(steps.slice(turned)) }
}

/** The first step that leaves an outlet without water, or is a flush in its way; -1 where none does. */
function firstStop(train: Train, steps: readonly SheetStep[], from: TrainState): number {
  const state = copyOf(from)
  const served = outlets(train).filter(({ id }) => from.watered.has(id))
  return steps.findIndex((step) => {
    play(train, state, step)
    // What runs out of a bed by its own hose takes no tap from anybody.
    return served.some(({ id }) => !state.watered.has(id)) || (step.verb === 'flush' && step.to !== 'vessel')
  })
}

/**
 * The run sheet of today's tasks on this train: every step in its order, with reason, caution and evidence, over one visit or two.
 *
 * Works from the plumbing's graph: which shut-offs keep water away, where pressure is let out, where first water may go; each step is
 * played on the state machine as it is written. With `from` it goes on from there: what is done stays done, answers and surprises change
 * what follows, and so do stages taken in or left out in the middle. Minutes are expected values. Refuses, with words for the person, what
 * it cannot do right. Deterministic; keys are stable.
 */
export function sheet(input: SheetInput): SheetResult {
  const { changes = [] } = input.from ?? {}
  const make = (work: TodaysWork, from: SheetInput['from']): SheetResult => made(input, work, from)
  return make(workAfter(input.tasks, changes, { ...input, make }), input.from)
}

/** The plan as these answers leave it, the sheets they lead to after those before, and whether water is kept away in each of them. */
function withAnswers(plan: Plan, before: readonly Sheet[], answers: Readonly<Record<string, string>> = {}) {
  const sheets = [...before]
  let now = plan
  let keptAway = true
  for (const [key, answer] of Object.entries(answers)) {
    now = answered(now, sheets.at(-1) as Sheet, key, answer)
    const again = written(now)
    if (again) sheets.push(again)
    else keptAway = false
  }
  return { now, sheets, keptAway }
}

/** Everything is left for another day: what was done is put back, written down and told. */
function nothingLeft(input: SheetInput, last: TodaysWork, from: SheetInput['from']): SheetResult {
  const earlier = sheetsBefore(input, last)
  const plan = planOf(input, withTasks(last))
  if ('ok' in plan) return plan
  const { now, sheets } = withAnswers(plan, earlier, from?.answers)
  const work = new Work(plan.train)
  before('', plan, work)
  closeOut('', { ...plan, due: [] }, [], [], work)
  const empty: Sheet = { visits: [{ minGapHoursBefore: 0, steps: work.steps }], holds: [] }
  return numbered(plan, goOn({ ...now, due: [] }, [...sheets, empty], from?.done ?? []))
}

/** The last work that there was something to do in. */
const withTasks = (work: TodaysWork): TodaysWork => (work.tasks.length > 0 || work.before === null ? work : withTasks(work.before))

function made(input: SheetInput, work: TodaysWork, from: SheetInput['from']): SheetResult {
  if (work.tasks.length === 0 && work.before !== null) return nothingLeft(input, work.before, from)
  const plan = planOf({ ...input, tasks: work.tasks }, work)
  if ('ok' in plan) return plan
  const plain = written(plan)
  if (plain === null) {
    return refuse(
      'no-isolation',
      say`This train shows no valve before the first part that is due. Find the shut-off and add it to the train first.`,
    )
  }
  const { done = [], answers } = from ?? {}
  const { now, sheets, keptAway } = withAnswers(plan, [...sheetsBefore(input, work.before), plain], answers)
  if (!keptAway)
    return refuse('no-isolation', say`Nothing that is left to shut keeps the water away. Leave the set closed, and say what was found.`)
  return numbered(now, withoutSkipped(now, goOn(plan, sheets, done), work.skipped, done))
}

/** The sheets of the work as it was before each change, oldest first: what was done of them is known by them. */
function sheetsBefore(input: SheetInput, work: TodaysWork | null): Sheet[] {
  if (work === null) return []
  const plan = planOf(input, work)
  const plain = 'ok' in plan ? null : written(plan)
  return [...sheetsBefore(input, work.before), ...(plain ? [plain] : [])]
}

/**
 * One session for everything where the others can be flushed round the bed while it soaks in a bypass of its own. Otherwise everything
 * else first, through the old beds, and each bed by itself last: what is new never meets water that has run through a bed not yet soaked.
 */
function sessions(plan: Plan, others: readonly Due[], beds: readonly Due[], work: Work): boolean {
  const [bed] = beds
  const one = bed !== undefined && beds.length === 1
  if (one && others.some(isWet) && together(plan, others, bed, work)) return session('', plan, others, bed, work)
  if (one && !others.some(isWet)) return session('', plan, others, bed, work)
  const groups = others.length > 0 ? closingsOf(plan, others, work) : []
  const done = groups.every((group, index) => session(index === 0 ? '' : `then${index}-`, plan, group, undefined, work))
  return done && soakInTurn(plan, beds, 0, work)
}

/** Each bed filled and left to soak; the last in the water first: it fills through the old bed before it, which sheds nothing. */
const soakInTurn = (plan: Plan, beds: readonly Due[], sooner: number, work: Work): boolean =>
  beds.toReversed().every((each, index) => session(sooner + index === 0 ? 'bed-' : `bed${sooner + index + 1}-`, plan, [], each, work))

/**
 * What is done in one closing: all of it, or (where parts can each be freed by a bypass or a parallel line of their own, and all at once
 * would stop somebody's water) one after the other, as the water runs.
 */
function closingsOf(plan: Plan, due: readonly Due[], work: Work): (readonly Due[])[] {
  const wet = due.filter(wantsIsolation)
  const stops = (group: readonly Due[]): boolean =>
    cutOff(
      plan,
      work.state,
      group.map(({ stage }) => stage),
    )
  if (wet.length < 2 || plan.schools.place === 'at-the-bench' || !stops(wet)) return [due]
  const free = wet.filter((one) => !stops([one]))
  if (free.length === 0) return [due]
  const groups: Due[][] = []
  for (const one of wet) {
    const isFree = free.includes(one)
    const last = isFree
      ? groups.find((group) => free.includes(group[0] as Due) && !stops([...group, one]))
      : groups.find((group) => !free.includes(group[0] as Due))
    if (last) last.push(one)
    else groups.push([one])
  }
  // What opens no water goes with the reactor it stands in, else with the first.
  for (const one of due.filter((other) => !wet.includes(other))) {
    const beside = groups.find((group) => group.some(({ stage }) => reactorOf(plan.train, stage.id).some(({ id }) => id === one.stage.id)))
    ;(beside ?? (groups[0] as Due[])).push(one)
  }
  // In the order of the water, as flushes want it.
  return groups.map((group) => due.filter((one) => group.includes(one)))
}

function together(plan: Plan, others: readonly Due[], bed: Due, work: Work): boolean {
  const bypass = nodesOf(plan.train, 'bypass').find(({ id }) => id === bypassRound(plan, bed.stage))
  if (!bypass || others.some(({ stage }) => goesRound(plan.train, bypass, stage.id))) return false
  // Where its bypass alone frees the bed the house keeps its water meanwhile.
  if (chooseIsolation(plan, work.state, [bed.stage], [])?.bypass === bypass.id) return false
  if (aroundBed(plan, others, bed).apart.length > 0) return false
  const stages = [...others, bed].filter(wantsIsolation).map(({ stage }) => stage)
  return chooseIsolation(plan, work.state, stages, benchLines(plan, [...others, bed]))?.bypass === null
}

const numbered = (plan: Plan, made: Sheet): SheetResult => ({
  ok: true,
  holds: made.holds,
  visits: made.visits.map((visit) => ({ ...visit, steps: inBlocks(plan, visit.steps).map((step, index) => ({ ...step, n: index + 1 })) })),
})
