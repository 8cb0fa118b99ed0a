import { caution, say } from '../../words'
import { comesTo, isHot, reactorOf } from '../graph'
import { stageLabel, tapLabel } from '../labels'
import { inOf } from '../machine/network'
import { stageOf } from '../machine/state'
import type { Due } from '../plan'
import { isWet, outlets, type Plan, tapsByUse } from '../plan'
import type { Work } from '../work'

export const MAINS = () => caution`Mains electricity and water: dry hands, and leave covers closed.`

/** The refrigerator's outlet to unplug at: an inline cartridge, or a body that is reached behind the appliance. */
export function applianceOf(plan: Plan, due: readonly Due[]): string | null {
  const behind = due.filter(({ stage }) => stage.housing !== 'fridge-cartridge' && stage.housing !== 'dry-slot')
  const fed = (id: string): boolean => behind.some(({ stage }) => comesTo(plan.train, stage.id, id))
  const all = outlets(plan.train)
  const inline = behind.some(({ stage }) => stage.media === 'fridge-inline')
  const cold = all.find(({ id, use }) => (use === 'ice' || (inline && use === 'appliance')) && fed(id))
  // A set that serves an ice maker and taps as well is not the appliance's own.
  const only = all.filter(({ id }) => fed(id)).every(({ use }) => use === 'ice' || use === 'appliance')
  if (inline) return (cold ?? all.find(({ id }) => fed(id)))?.id ?? null
  return cold && only ? cold.id : null
}

/** One stage of each reactor that is worked on, to darken it by: its lamp where it has one. Power off at lamp or sleeve counts for both. */
function reactorsOf(plan: Plan, due: readonly Due[]): string[] {
  const lamps = due.flatMap(({ stage }) => {
    const all = reactorOf(plan.train, stage.id)
    return all.length === 0 ? [] : [(all.find(({ media }) => media === 'uv-lamp') ?? stage).id]
  })
  return [...new Set(lamps)]
}

/** "the ballast", or of several reactors whose. */
function ballastOf(plan: Plan, id: string): string {
  const stage = stageOf(plan.train, id)
  const several = plan.train.nodes.some(
    (node) => node.kind === 'stage' && node.housing === 'uv-reactor' && !reactorOf(plan.train, id).some((one) => one.id === node.id),
  )
  return stage && several ? say`the ballast of ${stageLabel(stage)}` : say`the lamp’s ballast`
}

/** The appliance drawn out and unplugged, where its line is worked on; not a second time. */
export function unplug(phase: string, plan: Plan, due: readonly Due[], work: Work): void {
  const appliance = applianceOf(plan, due)
  if (appliance === null || work.state.off.has(appliance)) return
  work.add(phase, 'power-off', [appliance], {
    text: say`Make room, draw the appliance out and unplug it`,
    why: say`The body is reached behind it, and its valves must not call for water while the line is open.`,
    caution: MAINS(),
    minutes: 3,
  })
}

/** Lamps dark before their reactor is opened. */
export function darken(phase: string, plan: Plan, due: readonly Due[], work: Work): void {
  for (const reactor of reactorsOf(plan, due)) {
    if (work.state.off.has(reactor)) continue
    work.add(phase, 'power-off', [reactor], {
      text: say`Unplug ${ballastOf(plan, reactor)} and see that it is dark`,
      why: caution`A lit lamp burns eyes and skin, and its cap carries mains voltage.`,
      caution: caution`Never look at a lit lamp. Ultraviolet harms eyes and skin; wait until it has cooled.`,
    })
  }
}

export function powerOff(phase: string, plan: Plan, due: readonly Due[], work: Work): void {
  unplug(phase, plan, due, work)
  darken(phase, plan, due, work)
}

/** The appliance back on its plug once its line is full and tight: its dispenser then lets the air out. */
export function plugIn(phase: string, plan: Plan, due: readonly Due[], work: Work): void {
  const appliance = applianceOf(plan, due)
  if (appliance !== null && work.state.off.has(appliance)) {
    work.add(phase, 'power-on', [appliance], {
      text: say`Plug the appliance in; leave it drawn out`,
      why: say`Its line is full and tight again. It is pushed back after the last look behind it.`,
    })
  }
}

/** Back on once water stands in what they cool or light. */
export function powerOn(phase: string, plan: Plan, due: readonly Due[], work: Work): void {
  plugIn(phase, plan, due, work)
  const wet = due.some(isWet)
  for (const reactor of reactorsOf(plan, due)) {
    if (!work.state.off.has(reactor)) continue
    work.add(phase, 'power-on', [reactor], {
      text: say`Plug ${ballastOf(plan, reactor)} in; the tell-tale lights`,
      why: wet ? say`The chamber is full again: the lamp cools in water.` : say`The lamp is closed in again.`,
      caution: caution`Never look into the lamp to see whether it is lit.`,
    })
    work.add(phase, 'wait', [reactor], {
      text: wet
        ? say`Let the lamp warm up before water is used`
        : say`Let the lamp warm up; then run the tap for two minutes to waste before water is used`,
      why: wet
        ? say`A cold lamp gives less than its dose: what passes meanwhile is untreated.`
        : say`A cold lamp gives less than its dose, and what stood in the chamber while it was dark had no light at all.`,
      evidence: 'timer',
      minutes: 5,
    })
    if (wet) untreatedOut(phase, plan, reactor, work)
  }
}

/** What stood in chamber and pipe while the lamp was dark has had no light. */
function untreatedOut(phase: string, plan: Plan, reactor: string, work: Work): void {
  const tap = tapsByUse(plan.train).find(({ id }) => comesTo(plan.train, reactor, id) && !isHot(plan.train, id))
  // Before a dose everything behind is disinfected anyway.
  if (!tap || phase.startsWith('protect') || !work.state.watered.has(inOf(plan.train, tap.id))) return
  if (work.state.taps.has(tap.id)) return
  const name = tapLabel(plan.train, tap.id)
  work.add(`${phase}-lit`, 'open', [tap.id], {
    text: say`Open ${name} and let what stood in the chamber and the pipe run to waste: two minutes`,
    why: caution`It passed the lamp while it was dark, or stood behind it: nobody drinks that.`,
    minutes: 2,
  })
  work.add(`${phase}-lit`, 'close', [tap.id], { text: say`Close ${name}`, why: say`From here on all that comes has passed a warm lamp.` })
}
