import { say } from '../../words'
import { comesTo, stagesInFlow } from '../graph'
import type { Isolation } from '../isolation'
import { tapLabel } from '../labels'
import { isDry } from '../machine/state'
import { type Due, type Plan, tanks, tapsByUse } from '../plan'
import type { StageNode } from '../types'
import type { Flushes } from '../ways'
import type { Work } from '../work'
import { addFlush } from './flush'
import { closeTaps, heatersOn, lookLast, openSlowly, openUp } from './open-up'
import { applianceOf, plugIn, powerOn } from './power'

/** Water back, the rest flushed to where it can do no harm, storage last. */
export function restore(prefix: string, plan: Plan, isolation: Isolation | null, due: readonly Due[], flushes: Flushes, work: Work): void {
  const phase = `${prefix}restore`
  closeTaps(phase, plan, work)
  // Before water comes: what the new part sheds first must find the tank shut.
  const apart = flushes.taps.filter(({ tanksShut }) => tanksShut.length > 0)
  for (const id of new Set(apart.flatMap(({ tanksShut }) => tanksShut))) keepOut(`${phase}-shut`, id, work)
  if (isolation) openUp(phase, plan, isolation, work)
  for (const { stage, to } of flushes.drain) addFlush(`${phase}-membrane`, [stage], to, say`to the drain, tank shut`, work)
  for (const one of apart) throughTap(`${phase}-shut`, plan, one, work)
  closeTaps(`${phase}-shut`, plan, work)
  for (const { id } of tanks(plan.train)) if (work.state.shut.has(id)) openSlowly(`${phase}-tank`, plan, id, work)
  plugIn(`${phase}-rest`, plan, due, work)
  const open = flushes.taps.filter(({ tanksShut }) => tanksShut.length === 0)
  for (const one of open) throughTap(`${phase}-rest`, plan, one, work)
  const air = open.length === 0 && flushes.taps.length === 0 && isolation !== null ? plan.tap : null
  if (air !== null) openTap(`${phase}-rest`, plan, air, work)
  for (const stage of flushes.vessel) addFlush(`${phase}-rest`, [stage], 'vessel', say`into a jug`, work)
  letAirOut(`${phase}-air`, plan, stagesInFlow(plan.train), work)
  closeTaps(`${phase}-last`, plan, work)
  heatersOn(`${phase}-last`, plan, work)
  powerOn(`${phase}-last`, plan, due, work)
  if (!work.state.leakWanted && isolation === null) return
  lookLast(`${phase}-last`, isolation?.close[0] ?? isolation?.bypass ?? plan.tap, work, applianceOf(plan, due) !== null)
  closeTaps(`${phase}-end`, plan, work)
}

/** What is not flushed was not filled with a way out open either: a tap behind it runs until no air comes. */
export function letAirOut(phase: string, plan: Plan, stages: readonly StageNode[], work: Work): void {
  for (const stage of stages.filter((one) => !isDry(one))) {
    if (work.state.stages.get(stage.id)?.full !== false) continue
    const tap = tapsByUse(plan.train).find(({ id }) => !work.state.taps.has(id) && comesTo(plan.train, stage.id, id))
    if (tap) openTap(phase, plan, tap.id, work)
  }
}

/** Storage stays out of the first water's way. */
export function keepOut(phase: string, tank: string, work: Work): void {
  if (work.state.shut.has(tank)) return
  work.add(phase, 'close', [tank], {
    text: say`Shut the tank valve`,
    why: say`The first water of the new part must not settle in the tank.`,
  })
}

function openTap(phase: string, plan: Plan, tap: string, work: Work): void {
  if (work.state.taps.has(tap)) return
  work.add(phase, 'open', [tap], {
    text: say`Open ${tapLabel(plan.train, tap)}`,
    why: say`Air goes out first: it spits. Then look at the joints with water moving.`,
  })
}

function throughTap(phase: string, plan: Plan, { stages, to }: Flushes['taps'][number], work: Work): void {
  openTap(phase, plan, to, work)
  addFlush(phase, stages, to, say`through ${tapLabel(plan.train, to)} to waste`, work)
}
