import { caution, say } from '../../words'
import { check, type Finding, unmeasuredBefore } from '../check'
import { comesTo, goesRound, stagesInFlow } from '../graph'
import { chooseIsolation, type Isolation } from '../isolation'
import { inWords, stageLabel, stageNoun, valveLabel } from '../labels'
import { CLEAR, isDry, isInline } from '../machine/state'
import { inspectBody, openBody, putSpacer, sealBody, shutBody } from '../phases/bodies'
import { asks } from '../phases/change'
import { closeOut, holdsAfter } from '../phases/close-out'
import { isolate, placesOf } from '../phases/isolate'
import { closeTaps, heatersOn, lookForLeaks, lookLast, openSlowly, openUp } from '../phases/open-up'
import { powerOff, powerOn } from '../phases/power'
import { type Due, nodesOf, outlets, type Plan, planOn, tapsByUse } from '../plan'
import { session } from '../sheet'
import type { SheetHold, SheetSchools, SheetStep, StageNode, Task, Train } from '../types'
import { Work } from '../work'

export interface ProtectOptions {
  schools: SheetSchools
  /** `bypass`: the heater's tank gets no chlorine, its hot pipes do; `include`: it gets a dose of its own, unheated. */
  heater: 'none' | 'bypass' | 'include'
  /** The unit is itself what is disinfected: nothing is shut off, everything comes out. */
  own: boolean
  contactHours: number
  /** False where bacteria or a flood are the reason: no water that stands stored here is called fit to drink. Default true. */
  storedIsFit?: boolean
}

/** What chlorine meets in a train, and how it is kept from harm. */
export interface ProtectedThing {
  id: string
  what: 'shut-off' | 'out' | 'bypass' | 'stays' | 'heater-off' | 'heater-round'
  text: string
}
export interface Protection {
  way: 'shut-off' | 'passes'
  things: ProtectedThing[]
  /** Why no chlorine may be given before something is changed; empty where it may. */
  cannot: string[]
  /** Dose day, up to the dose. */
  before: SheetStep[]
  /** The housing of a unit on its own that the dose is made up in, still open, while it is shut off and empty; null for other ways in. */
  dosedIn: string | null
  /** What follows the dose on the same day: that housing closed, water back, looked at. Empty where the dose comes another way. */
  during: SheetStep[]
  /** Whether the unit keeps treated water in a tank. */
  hasTank: boolean
  /** Once a strip shows the chlorine gone. */
  after: SheetStep[]
  /** New parts wanted for the ones that came out. */
  tasks: Task[]
  holds: SheetHold[]
  /** What the state machine finds wrong with both parts played through; empty means proved. */
  findings: Finding[]
}

/** Beds that stay where they are: only a bypass keeps chlorine from them. */
const isBed = ({ media, housing }: StageNode): boolean => media === 'softener' || housing === 'media-tank'
const isLit = ({ media }: StageNode): boolean => media === 'uv-lamp' || media === 'uv-sleeve'
const holdsElement = (stage: StageNode): boolean => !isDry(stage) && !isLit(stage) && !isBed(stage)

const around = (train: Train, stage: StageNode): string | null =>
  nodesOf(train, 'bypass').find((bypass) => goesRound(train, bypass, stage.id))?.id ?? null

/** A unit for drinking water, or anything with a membrane that nothing goes round: shut off, not run through. */
function isUnit(train: Train, stages: readonly StageNode[]): boolean {
  if (stages.some((stage) => stage.media === 'membrane' && around(train, stage) === null)) return true
  return outlets(train).every(({ use }) => use !== 'house' && use !== 'hose')
}

interface Ways {
  shut: Isolation | null
  bypasses: string[]
  out: StageNode[]
  things: ProtectedThing[]
  cannot: string[]
}

function waysThrough(plan: Plan, stages: readonly StageNode[], own: boolean): Ways {
  const { train } = plan
  const ways: Ways = { shut: null, bypasses: [], out: [], things: [], cannot: [] }
  const bypasses = new Set<string>()
  for (const stage of stages) {
    if (!isBed(stage) && (stage.media !== 'membrane' || own)) continue
    const bypass = around(train, stage)
    if (bypass === null) ways.cannot.push(say`No bypass goes round ${stageLabel(stage)}: put one in, or leave this system shut off.`)
    else {
      bypasses.add(bypass)
      ways.things.push({ id: stage.id, what: 'bypass', text: say`${stageLabel(stage)} in bypass` })
    }
  }
  ways.bypasses = [...bypasses]
  const round = (stage: StageNode): boolean =>
    nodesOf(train, 'bypass').some((bypass) => bypasses.has(bypass.id) && goesRound(train, bypass, stage.id))
  for (const stage of stages) {
    if (isLit(stage)) {
      if (stage.media === 'uv-lamp') ways.things.push({ id: stage.id, what: 'stays', text: say`the lamp stays on` })
    } else if (holdsElement(stage) && !round(stage)) {
      ways.out.push(stage)
      ways.things.push({ id: stage.id, what: 'out', text: say`${stageNoun(stage)} out, ${stageLabel(stage)} closed empty` })
    }
  }
  return ways
}

function waysShut(plan: Plan, stages: readonly StageNode[], storedIsFit: boolean, work: Work): Ways {
  const wet = stages.filter((stage) => !isDry(stage))
  const shut = chooseIsolation(plan, work.state, wet, [])
  if (shut === null || shut.close.length + (shut.bypass === null ? 0 : 1) === 0)
    return {
      shut: null,
      bypasses: [],
      out: [],
      things: [],
      cannot: [say`No shut-off before this unit: put one in, or cap its line, first.`],
    }
  const things = [...shut.close, ...(shut.bypass === null ? [] : [shut.bypass])].map((id): ProtectedThing => {
    const name = shut.bypass === id ? say`the bypass turned round it` : say`${valveLabel(plan.train, id)} shut`
    const hasTank = nodesOf(plan.train, 'tank').length > 0
    const tank = !hasTank
      ? ''
      : storedIsFit
        ? say`; its tank keeps drinking water for the night`
        : say`; what its tank holds is not for drinking`
    return { id, what: 'shut-off', text: say`unit off: ${name}${tank}` }
  })
  return { shut, bypasses: [], out: [], things, cannot: [] }
}

function heaters(plan: Plan, heater: ProtectOptions['heater'], ways: Ways): void {
  for (const { id } of nodesOf(plan.train, 'heater')) {
    ways.things.push({ id, what: 'heater-off', text: say`the water heater without power or gas, tagged` })
    if (heater !== 'bypass') continue
    const bypass = nodesOf(plan.train, 'bypass').find((one) => goesRound(plan.train, one, id))
    if (bypass) {
      ways.bypasses.push(bypass.id)
      ways.things.push({ id: bypass.id, what: 'heater-round', text: say`the heater’s bypass: hot pipes are dosed through it` })
    } else ways.cannot.push(say`No bypass goes round the water heater: include it, or put one in.`)
  }
}

function storedWords(plan: Plan, storedIsFit: boolean): string {
  if (nodesOf(plan.train, 'tank').length === 0) return ''
  return storedIsFit
    ? say` The unit’s tank still holds drinking water for the night.`
    : say` What stands in its tank came from the same water: it is not for drinking, and is let out before the unit is used again.`
}

function shutOff(plan: Plan, ways: Ways, storedIsFit: boolean, work: Work): void {
  const { shut } = ways
  if (shut === null) return
  if (shut.bypass !== null)
    work.add('protect', 'turn', [shut.bypass], {
      to: 'bypass',
      text: say`Turn the bypass round the unit, and tag it`,
      why: say`No chlorine may reach a membrane or its carbons.`,
    })
  for (const id of shut.close)
    work.add('protect', 'close', [id], {
      text: say`Shut ${valveLabel(plan.train, id)} and tag it: the unit stays off until the flush`,
      why: say`Chlorine ruins a membrane and is eaten by carbon.${storedWords(plan, storedIsFit)}`,
    })
}

/** Bodies that hold a measured dose like a cup. */
const CUPS: readonly StageNode['housing'][] = ['sump-small', 'sump-large']

function elementsOut(plan: Plan, due: readonly Due[], dosedIn: string | null, work: Work): Isolation | null {
  const first = due[0]
  if (!first) return null
  const isolation = chooseIsolation(
    plan,
    work.state,
    due.map(({ stage }) => stage),
    [],
  )
  if (isolation === null) return null
  powerOff('protect', plan, due, work)
  const under = placesOf(
    plan.train,
    due.map(({ stage }) => stage),
    [],
  )
  isolate('protect', plan, isolation, due, [], work, null, under)
  const takeOut = ({ stage }: Due): void => {
    const phase = `protect-${stage.id}`
    openBody(phase, plan, stage, work)
    inspectBody(phase, plan, stage, work)
    if (isInline(stage)) putSpacer(phase, plan, stage, work)
    else {
      sealBody(phase, plan, stage, work)
      if (stage.id === dosedIn) {
        work.add(phase, 'dose', [stage.id], {
          text: say`The measured chlorine goes in`,
          why: say`The housing is open, isolated and empty.`,
        })
      }
      shutBody(phase, plan, stage, work)
    }
  }
  // The one that takes the dose is opened last and closed with it.
  for (const one of due) if (one.stage.id !== dosedIn) takeOut(one)
  for (const one of due) if (one.stage.id === dosedIn) takeOut(one)
  closeTaps('protect-open', plan, work)
  openUp('protect-open', plan, isolation, work)
  for (const { id } of isolation.tanks) if (work.state.shut.has(id)) openSlowly('protect-tank', plan, id, work)
  powerOn('protect-open', plan, due, work)
  lookLast('protect-open', first.stage.id, work)
  return isolation
}

function goRound(plan: Plan, ways: Ways, work: Work): void {
  for (const { id } of nodesOf(plan.train, 'heater'))
    if (!work.state.off.has(id))
      work.add('protect', 'power-off', [id], {
        text: say`Switch the water heater off, power or gas, and tag it`,
        why: say`It may stand empty or chlorinated: it is filled with clean water before it heats again, always.`,
        caution: caution`Hot water, mains electricity and gas. No descaler in this job: acid and chlorine make a toxic gas.`,
      })
  for (const id of ways.bypasses)
    work.add('protect', 'turn', [id], {
      to: 'bypass',
      text: say`Turn the bypass round ${roundWhat(plan.train, id)}, and tag it`,
      why: say`Beds and their resin are not for strong chlorine, unless their maker allows it. A tag says what stands out of service.`,
    })
}

const roundWhat = (train: Train, id: string): string => {
  const bypass = nodesOf(train, 'bypass').find((one) => one.id === id)
  const bed = bypass && stagesInFlow(train).find((stage) => isBed(stage) && goesRound(train, bypass, stage.id))
  return bed ? stageLabel(bed) : nodesOf(train, 'heater').length > 0 ? say`the water heater` : say`the set`
}

function back(plan: Plan, ways: Ways, due: readonly Due[], holds: readonly SheetHold[], work: Work): boolean {
  work.add('back', 'strip', [nodesOf(plan.train, 'source')[0]?.id ?? plan.tap], {
    to: CLEAR,
    text: say`Strip at the entry: chlorine out, or down to the supply’s own`,
    why: say`What goes back now must not meet the dose.`,
  })
  if (ways.shut) {
    for (const id of ways.shut.close) openSlowly('back-unit', plan, id, work)
    if (ways.shut.bypass !== null) toService('back-unit', plan, ways.shut.bypass, work)
    lookLast('back-unit-last', ways.shut.close[0] ?? (ways.shut.bypass as string), work)
  }
  if (due.length > 0 && !session('back-', plan, due, undefined, work)) return false
  for (const id of ways.bypasses) toService('back-bypass', plan, id, work)
  heatersOn('back-heater', plan, work)
  if (ways.bypasses.length > 0) lookLast('back-bypass-last', ways.bypasses[0] as string, work)
  closeTaps('back-end', plan, work)
  if (due.length > 0) closeOut('back-', plan, due, holds, work)
  return true
}

function toService(phase: string, plan: Plan, id: string, work: Work): void {
  work.add(phase, 'turn', [id], {
    to: 'service',
    text: say`Turn the bypass of ${roundWhat(plan.train, id)} to service, slowly`,
    why: say`What stood in bypass can seed germs again: it is disinfected its maker’s way, or renewed, before it returns.`,
  })
  lookForLeaks(`${phase}-${id}`, id, work)
}

/**
 * How one train is kept from harm while its site is disinfected, and brought back: which unit is shut off, which elements come out,
 * which beds and heaters are gone round; the lists for both days, from the same graph and state machine as run sheets, and what that
 * machine finds wrong when both are played through with the dose between. Deterministic; never throws for a train of the right form.
 */
export function protection(train: Train, options: ProtectOptions): Protection {
  const { schools, own, contactHours, storedIsFit = true } = options
  const tap = tapsByUse(train)[0]?.id ?? train.nodes[0]?.id ?? ''
  const source = nodesOf(train, 'source')[0]?.id ?? tap
  const stages = stagesInFlow(train).filter(({ id, media }) => media !== 'air-filter' && comesTo(train, source, id))
  const unit = !own && isUnit(train, stages) && stages.length > 0
  const plain = planOn(train, schools, { tap })
  const work = new Work(train)
  const ways = unit ? waysShut(plain, stages, storedIsFit, work) : waysThrough(plain, stages, own)
  if (!unit) heaters(plain, options.heater, ways)
  const tasks = ways.out.map((stage): Task => ({ stage: stage.id, action: 'change' }))
  const due = ways.out.map((stage, index): Due => ({ stage, task: tasks[index] as Task }))
  const plan: Plan = { ...plain, due }
  work.add('protect', 'tell', [tap], {
    text: say`Say that the water is out of use from now until the flush, and that nobody opens a tap`,
    why: say`Strong chlorine will stand in every pipe. Whoever must have water needs another supply until then.`,
    caution: caution`Infants, dialysis, aquariums, livestock, dental and medical equipment: ask, and see that none draws from these pipes.`,
  })
  asks('protect-', due, work)
  shutOff(plan, ways, storedIsFit, work)
  // Beds and heaters are gone round once the elements are out: where there are any the dose waits for that, and comes another way.
  const round = ways.bypasses.length > 0 || nodesOf(train, 'heater').length > 0
  const dosedIn = own && !round ? (ways.out.find(({ housing }) => CUPS.includes(housing))?.id ?? null) : null
  if (due.length > 0 && elementsOut(plan, due, dosedIn, work) === null)
    ways.cannot.push(say`No shut-off before the first housing: put one in, and add it to the plumbing, first.`)
  if (!unit) goRound(plan, ways, work)
  const cup = work.steps.findIndex(({ verb }) => verb === 'dose')
  if (cup < 0)
    work.add('dose', 'dose', [source], {
      text: say`The chlorine goes in`,
      why: say`Everything it may not meet is out, shut off or gone round.`,
    })
  const dosed = work.steps.length
  const before = work.steps.slice(0, cup < 0 ? dosed - 1 : cup)
  const during = cup < 0 ? [] : work.steps.slice(cup + 1)
  const holds = due.length > 0 ? holdsAfter(plan, false) : []
  if (!back(plan, ways, due, holds, work)) ways.cannot.push(say`Nothing keeps the water away while new elements go in.`)
  const steps = work.steps
  const { findings } = check({
    train,
    tasks,
    schools,
    holds,
    visits: [
      { minGapHoursBefore: 0, steps: steps.slice(0, dosed) },
      { minGapHoursBefore: contactHours, steps: steps.slice(dosed) },
    ],
  })
  return {
    way: unit ? 'shut-off' : 'passes',
    things: ways.things,
    cannot: ways.cannot,
    before,
    dosedIn: cup < 0 ? null : dosedIn,
    during,
    hasTank: nodesOf(train, 'tank').length > 0,
    after: steps.slice(dosed),
    tasks,
    holds,
    // A job's readings are its strips: a sheet's own are asked for only where new elements went in, and after it.
    findings: findings
      .filter(({ rule, text }) => rule !== 'record' || (due.length > 0 && text !== unmeasuredBefore()))
      .map((finding) => ({ ...finding, text: inWords(train, finding.text) })),
  }
}
