import { ownKindOf } from '../../catalogue/own-kinds'
import { say } from '../../words'
import { comesTo, goesRound } from '../graph'
import { chooseIsolation, type Isolation, NOTHING_SHUT, standingShut } from '../isolation'
import { pumpLabel, stageLabel, tapLabel, valveLabel } from '../labels'
import { pumpsAgainst, starvedPumps } from '../machine/pumps'
import { copyOf, settle } from '../machine/state'
import { type Due, nodesOf, type Plan, soakHoursOf, soaks } from '../plan'
import type { StageNode } from '../types'
import { ownDrain, type Way, wayOf } from '../ways'
import type { Work } from '../work'
import { warnStop, withLinesOff } from './flush'
import { isolate } from './isolate'
import { airOut, closeTaps, heatersOn, openSlowly, openUp } from './open-up'
import { MAINS, powerOn } from './power'

/** The longest a bed should wait for its second visit. */
export const SOAK_MOST_HOURS = 14 * 24

/** What runs to waste after the backwash. */
const CLEAR = { minutes: 5, litres: 40 }
/** Trickled, backwashed and run clear. */
const RUN_MINUTES = 45
/** As much as its kind asks for where the firm named it. */
function clearing(stage: StageNode): typeof CLEAR {
  const flush = ownKindOf(stage)?.flush
  return flush ? { minutes: flush.minutes, litres: flush.litres } : CLEAR
}

export const bypassRound = (plan: Plan, stage: StageNode): string | null =>
  nodesOf(plan.train, 'bypass').find((bypass) => !plan.untrusted.has(bypass.id) && goesRound(plan.train, bypass, stage.id))?.id ?? null

/** Beds that soak too: nothing is run through them on its way out. */
const otherBeds = ({ due }: Plan, { id }: StageNode): Set<string> =>
  new Set(due.filter(soaks).flatMap(({ stage }) => (stage.id === id ? [] : [stage.id])))

/** The new bed is filled, taken out of the water's way and left to soak. */
export function soakBed(prefix: string, plan: Plan, isolation: Isolation, bed: Due, due: readonly Due[], work: Work): void {
  const { stage } = bed
  const phase = `${prefix}soak`
  const name = stageLabel(stage)
  closeTaps(phase, plan, work)
  fillAndStand(phase, plan, isolation, stage, work)
  // A lamp chamber that was opened fills with a tap running before its lamp is lit.
  if (due.some(({ stage: one }) => one.media === 'uv-sleeve' && work.state.stages.get(one.id)?.full === false))
    airOut(`${phase}-lamp`, plan, say`The lamp chamber is full before its lamp is lit: the water cools it.`, work)
  heatersOn(phase, plan, work)
  powerOn(phase, plan, due, work)
  work.add(phase, 'soak', [stage.id], {
    text: say`Leave ${name} to soak, full of water`,
    why: say`Dry grains hold air: a bed that is run before it has soaked floats, packs badly and sheds fines for weeks.`,
    hours: soakHoursOf(bed),
  })
}

/** Filled with a way out for its air; then the house goes on round it, or it stands behind the shut feed. */
export function fillAndStand(phase: string, plan: Plan, isolation: Isolation, stage: StageNode, work: Work): void {
  const bypass = bypassRound(plan, stage)
  const way = wayOf(plan, stage, otherBeds(plan, stage))
  if (way.kind === 'line') {
    withLinesOff(`${phase}-fill`, plan, isolation, [way.to], work, () => {
      warnStop(`${phase}-fill`, plan, isolation, 10, work)
      openUp(phase, plan, isolation, work)
      fillBed(phase, plan, stage, work)
    })
  } else {
    openUp(phase, plan, isolation, work)
    fillBed(phase, plan, stage, work)
  }
  if (bypass === null) standFull(phase, plan, stage, isolation, work)
  else goRound(phase, plan, isolation, bypass, work)
}

/** What an earlier bed was left to stand behind: its water comes back for filling this one, where it is the same. */
export function withStanding(plan: Plan, isolation: Isolation, stage: StageNode, { state }: Work): Isolation {
  const before = (ids: Iterable<string>): string[] => [...ids].filter((id) => comesTo(plan.train, id, stage.id))
  const around = bypassRound(plan, stage)
  return {
    ...isolation,
    bypass: isolation.bypass ?? (around !== null && state.bypassed.has(around) ? around : null),
    close: [...new Set([...isolation.close, ...before(state.shut)])],
    pumps: [...new Set([...isolation.pumps, ...before(state.still)])],
  }
}

/** Slowly, with a way out open behind it until water without air comes. */
function fillBed(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  const name = stageLabel(stage)
  if (!work.state.stages.get(stage.id)?.full) {
    work.add(`${phase}-air`, 'open', [plan.tap], {
      text: say`Open ${tapLabel(plan.train, plan.tap)}: air first, then grey water, to waste`,
      why: say`A bed that fills with every outlet shut keeps its air and never soaks through.`,
    })
  }
  work.add(`${phase}-air`, 'wait', [stage.id], {
    text: say`Let ${name} fill until water without air comes`,
    why: say`Slowly, so that the bed is not lifted.`,
    minutes: 5,
  })
  closeTaps(`${phase}-air`, plan, work)
}

/** No bypass goes round it: its own line is shut where another carries the house, else the feed, and with it what would run against it. */
function standFull(phase: string, plan: Plan, stage: StageNode, isolation: Isolation, work: Work): void {
  const own = standingShut(plan, [stage])
  const beside = own?.goesOn === true
  const shut = (beside ? own.close : isolation.close).filter((id) => !work.state.shut.has(id))
  const stands = copyOf(work.state)
  for (const id of shut) stands.shut.add(id)
  const pumps = [...pumpsAgainst(plan.train, stands), ...starvedPumps(plan.train, stands, stands.emptied)]
  for (const pump of new Set(pumps)) {
    work.add(`${phase}-stand`, 'power-off', [pump], {
      text: say`Switch ${pumpLabel(plan.train, pump)} off and tag it: it stays off until the second visit`,
      why: say`Dry, or against a shut valve, it would run hot for two days.`,
      caution: MAINS(),
    })
  }
  for (const id of shut) {
    work.add(`${phase}-stand`, 'close', [id], {
      text: say`Shut ${valveLabel(plan.train, id)}${beside ? '' : say` again`}: the bed stands full`,
      why: beside
        ? say`Until it has soaked the water goes on through the line beside it.`
        : say`No bypass goes round it: water that is drawn would run through a bed that has not soaked.`,
    })
  }
}

/** The house goes on round the bed. */
function goRound(phase: string, plan: Plan, isolation: Isolation, bypass: string, work: Work): void {
  if (!work.state.bypassed.has(bypass)) {
    work.add(`${phase}-stand`, 'turn', [bypass], {
      to: 'bypass',
      text: say`Turn the bypass: the house goes on with untreated water`,
      why: say`Nothing is drawn through the bed until it has soaked.`,
    })
  }
  openUp(`${phase}-round`, plan, { ...isolation, bypass: null, pumps: [...work.state.still] }, work)
  for (const { id } of isolation.tanks) if (work.state.shut.has(id)) openSlowly(`${phase}-tank`, plan, id, work)
}

/** Second visit: trickled, backwashed, run clear, back in service. */
export function runBed(prefix: string, plan: Plan, { stage }: Due, work: Work): void {
  const phase = `${prefix}run`
  const around = bypassRound(plan, stage)
  const way = wayOf(plan, stage, otherBeds(plan, stage))
  if (shutBehind(plan, stage, work).length > 0) runAside(phase, plan, stage, work)
  else if (way.kind === 'line') runByLine(phase, plan, stage, way, work)
  else {
    stopsAgain(phase, plan, around, work)
    openUp(phase, plan, { ...NOTHING_SHUT, bypass: around, close: stillShut(plan, work), pumps: [...work.state.still] }, work)
    if (way.kind === 'tap') {
      work.add(phase, 'open', [way.to], {
        text: say`Open ${tapLabel(plan.train, way.to)} a little`,
        why: say`What the bed sheds goes to waste, near the bed and not through the house.`,
      })
    }
    runToWaste(phase, plan, stage, way, work)
  }
  closeTaps(`${phase}-last`, plan, work)
  for (const { id } of nodesOf(plan.train, 'tank')) if (work.state.shut.has(id)) openSlowly(`${phase}-tank`, plan, id, work)
  heatersOn(`${phase}-last`, plan, work)
}

/** What stands shut between this bed and the house. */
const shutBehind = (plan: Plan, { id }: StageNode, work: Work): string[] =>
  stillShut(plan, work).filter((shut) => comesTo(plan.train, id, shut))

/** The line beside it carries the house: what the bed sheds leaves by a hose of its own while its way out stays shut. */
function runAside(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  const behind = shutBehind(plan, stage, work)
  const before = stillShut(plan, work).filter((id) => comesTo(plan.train, id, stage.id))
  openUp(phase, plan, { ...NOTHING_SHUT, close: before, pumps: [...work.state.still] }, work)
  runToWaste(phase, plan, stage, { kind: 'vessel', to: 'vessel' }, work)
  openUp(`${phase}-last`, plan, { ...NOTHING_SHUT, close: behind }, work)
}

/** Who must have water is told at the visit's beginning of the first bed, and here of each that follows. */
function stopsAgain(phase: string, plan: Plan, bypass: string | null, work: Work): void {
  if (!work.state.toldSinceTurn) warnStop(phase, plan, { ...NOTHING_SHUT, bypass }, RUN_MINUTES, work)
}

/** What the bed sheds would foul what follows: its line comes off, behind shut-offs that let a tap out. */
function runByLine(phase: string, plan: Plan, stage: StageNode, way: Way, work: Work): void {
  const around = bypassRound(plan, stage)
  const inService = copyOf(work.state)
  inService.bypassed.clear()
  inService.still.clear()
  for (const id of stillShut(plan, work)) inService.shut.delete(id)
  settle(plan.train, inService)
  const found = chooseIsolation(plan, inService, [], [way.to]) ?? NOTHING_SHUT
  const off = [...work.state.still]
  const isolation: Isolation = {
    ...found,
    close: [...new Set([...found.close, ...stillShut(plan, work)])],
    pumps: [...new Set([...found.pumps, ...off])],
  }
  const back = around !== null && found.bypass === null && work.state.bypassed.has(around) ? around : null
  isolate(`${phase}-stop`, plan, isolation, [], [way.to], work, back)
  withLinesOff(phase, plan, isolation, [way.to], work, () => {
    stopsAgain(phase, plan, isolation.bypass, work)
    openUp(phase, plan, isolation, work)
    runToWaste(phase, plan, stage, way, work)
  })
  openUp(`${phase}-last`, plan, isolation, work)
}

const stillShut = (plan: Plan, work: Work): string[] =>
  plan.train.nodes.flatMap(({ id, kind }) => (work.state.shut.has(id) && kind !== 'tank' ? [id] : []))

const trickleTo = (plan: Plan, way: Way): string =>
  way.kind === 'tap' ? say`through ${tapLabel(plan.train, way.to)}` : way.kind === 'line' ? say`by the freed line` : say`by a hose`

function runToWaste(phase: string, plan: Plan, stage: StageNode, way: Way, work: Work): void {
  const name = stageLabel(stage)
  const drain = ownDrain(plan.train, stage)
  const clear = clearing(stage)
  work.add(phase, 'trickle', [stage.id], {
    to: way.to,
    text: say`Trickle ${name} to waste ${trickleTo(plan, way)}, its inlet valve a quarter open`,
    why: say`Slowly, so that the bed settles without channels; fines leave without being driven through the house.`,
    evidence: 'timer',
    minutes: 30,
  })
  work.add(phase, 'backwash', [stage.id], {
    to: drain ?? 'vessel',
    text: say`Backwash ${name}: feed at its outlet port, hose with its adapter from the inlet port to ${drain ? say`the drain` : say`a gully or a bucket`}`,
    why: say`Upwards through the bed: fines and air go out, the grains sort themselves. The hose ends in its own drain, never in another stage’s.`,
    tools: ['hose', say`hose adapter`],
    evidence: 'timer',
    minutes: 3,
  })
  work.add(`${phase}-clear`, 'flush', [stage.id], {
    to: way.to,
    text: say`Run ${name} to waste: at least ${clear.minutes} minutes and {litres}, and until clear`,
    values: { litres: clear.litres },
    why: say`What the backwash stirred up goes to waste before anybody draws.`,
    evidence: 'timer',
    ...clear,
  })
}
