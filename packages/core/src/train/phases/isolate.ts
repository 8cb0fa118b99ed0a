import { caution, say } from '../../words'
import { flowOf } from '../flow'
import { comesTo, isHot } from '../graph'
import { type Isolation, openedChambers, reliefPoints } from '../isolation'
import { lineLabel, pumpLabel, stageLabel, tapLabel, valveLabel } from '../labels'
import { inOf } from '../machine/network'
import { copyOf, isInline, placeOf, play, reliefAt, stageOf, type TrainState } from '../machine/state'
import { type Due, linesInto, linesOutOf, nodesOf, type Plan, tapsByUse } from '../plan'
import type { StageNode, Train, ValveNode } from '../types'
import type { Work } from '../work'
import { MAINS } from './power'

const PRESSURE = () => caution`Water under pressure: nothing is loosened before the flow has stopped.`

const turns = (plan: Plan, id: string): ValveNode['turns'] | null => {
  const node = plan.train.nodes.find((one) => one.id === id)
  return node?.kind === 'valve' ? node.turns : null
}

function shut(phase: string, plan: Plan, id: string, work: Work): void {
  const name = valveLabel(plan.train, id)
  const how = { quarter: say`: lever across the line`, multi: say`: turn it in until it stops` }
  const kind = turns(plan, id)
  work.add(phase, 'close', [id], {
    text: say`Shut ${name}${kind ? how[kind] : ''}`,
    why:
      plan.train.nodes.find((node) => node.id === id)?.kind === 'source'
        ? say`Nothing nearer is to be trusted: the building goes without water for as long as this takes.`
        : say`No water may reach a housing while it is open.`,
  })
}

const LEAST_DRAIN_MINUTES = 3

function storage(phase: string, plan: Plan, tanks: Isolation['tanks'], work: Work): void {
  for (const { id, drain, close } of tanks) {
    if (drain) {
      // A tank hangs off its tee: what stands behind the tee lets it out.
      const lets = [id, ...plan.train.pipes.filter(({ to }) => to === id).map(({ from }) => from)]
      const tap = tapsByUse(plan.train).find((one) => !isHot(plan.train, one.id) && lets.some((from) => comesTo(plan.train, from, one.id)))
      const litres = nodesOf(plan.train, 'tank').find((tank) => tank.id === id)?.volumeL ?? 0
      work.add(phase, 'drain', [id], {
        ...(tap ? { to: tap.id } : {}),
        text: say`Open the tap and let the tank run empty`,
        why: close
          ? say`School: drain the tank. Its water is old, and an empty tank presses on nothing.`
          : say`This tank has no valve that shuts: until it is empty it presses on every housing.`,
        minutes: Math.max(LEAST_DRAIN_MINUTES, Math.ceil(litres / flowOf(tap, 'usual'))),
        litres,
      })
    }
    if (!close) continue
    work.add(phase, 'close', [id], {
      text: say`Shut the tank valve`,
      why: say`The tank is a second source of pressure: with the feed shut it still pushes water back.`,
    })
  }
}

const stillPressed = (state: TrainState, chambers: readonly string[]): boolean => chambers.some((one) => state.pressed.has(one))

function relieveAt(phase: string, plan: Plan, point: string, work: Work): void {
  const { train } = plan
  const [id = '', part] = point.split('.')
  const node = train.nodes.find((one) => one.id === id)
  const stage = node?.kind === 'stage' ? node : null
  const name = stage ? stageLabel(stage) : ''
  const said = (): { text: string; why: string; minutes: number } => {
    if (point.includes('>') && work.state.apart.has(point))
      return {
        text: say`Wait until the open line has stopped`,
        why: say`Each shutting needs its own relief before the next joint is touched.`,
        minutes: 0.5,
      }
    if (part === 'button')
      return {
        text: say`Press the button on ${name} until nothing hisses`,
        why: say`Air caught under the head keeps pressure after the tap has stopped.`,
        minutes: 0.5,
      }
    if (part === 'cock')
      return {
        text: say`Open the cock of ${name} a little until it stops`,
        why: say`The section has no tap of its own: the cock lets its pressure out.`,
        minutes: 0.5,
      }
    if (node?.kind === 'drain')
      return {
        text: say`Wait until the drain line has stopped`,
        why: say`The membrane holds the pressure in front of it; it leaves slowly, through the drain side.`,
        minutes: 2,
      }
    if (node?.kind === 'outlet')
      return {
        text: say`Open ${tapLabel(train, id)} and wait until it stops`,
        why: say`A shut valve still leaves pressure between it and the tap; the tap lets it out.`,
        minutes: 0.5,
      }
    return {
      text: say`Ease ${point.includes('>') ? lineLabel(train, point) : say`a joint of ${name}`} under a towel until the hissing stops`,
      why: say`No tap, button or cock lets this section out. A little at a time: it is tightened again at once if it sprays.`,
      minutes: 1,
    }
  }
  work.add(phase, 'relieve', [point], { ...said(), caution: PRESSURE() })
}

/** Lets the pressure out of what is to be opened, by taps first, then the drain side, then what the housings offer. */
function relieve(phase: string, plan: Plan, stages: readonly StageNode[], lines: readonly string[], work: Work): void {
  const { train } = plan
  const { state } = work
  const chambers = openedChambers(train, stages, lines, state.bypassed)
  const quiet = (id: string): boolean => !state.fed.has(inOf(train, id))
  const starts = [...stages.map(({ id }) => id), ...lines.map((line) => line.split('>')[0] as string)]
  const taps = tapsByUse(train).filter(({ id }) => !isHot(train, id) && quiet(id) && starts.some((start) => comesTo(train, start, id)))
  const used = new Set<string>()
  const take = (point: string): void => {
    used.add(point)
    relieveAt(phase, plan, point, work)
  }
  // A tap behind the work is opened whether or not a membrane stands between: it shows that the valve holds.
  if (taps[0]) take(taps[0].id)
  const drains = train.nodes.filter(
    ({ id, kind }) => kind === 'drain' && quiet(id) && starts.some((start) => comesTo(train, start, id) || sameSide(id)),
  )
  function sameSide(drain: string): boolean {
    return reliefAt(train, drain, state.bypassed).some((chamber) => state.pressed.has(chamber)) && stillPressed(state, chambers)
  }
  for (const { id } of drains) take(id)
  for (const stage of stages) if (stage.reliefButton) take(`${stage.id}.button`)
  for (const point of reliefPoints(train)) {
    if (!stillPressed(state, chambers)) break
    if (used.has(point) || !quiet(point.split('.')[0] as string)) continue
    if (helps(plan, state, point, chambers)) take(point)
  }
  const own = stages.filter(isInline).flatMap(({ id }) => [...linesInto(train, id), ...linesOutOf(train, id)])
  for (const stage of stages)
    if (!isInline(stage) && stillPressed(state, openedChambers(train, [stage], [], state.bypassed))) take(stage.id)
  for (const line of new Set([...own, ...lines])) if (stillPressed(state, openedChambers(train, [], [line], state.bypassed))) take(line)
  if (used.size === 0) take(own[0] ?? stages[0]?.id ?? (lines[0] as string))
}

/** Whether letting out here takes pressure from one of these waters. */
function helps(plan: Plan, state: TrainState, point: string, chambers: readonly string[]): boolean {
  const trial = copyOf(state)
  play(plan.train, trial, { verb: 'relieve', at: [point] })
  return chambers.filter((one) => trial.pressed.has(one)).length < chambers.filter((one) => state.pressed.has(one)).length
}

/** One body of each place that water is let out at: where a tray goes, the first of all first. */
export function placesOf(train: Train, stages: readonly StageNode[], lines: readonly string[]): StageNode[] {
  const under: StageNode[] = []
  const stands = (stage: StageNode): boolean => under.some((one) => placeOf(one) === placeOf(stage))
  for (const stage of stages) if (!stands(stage)) under.push(stage)
  for (const line of lines) {
    // A line between two places drips into either's tray.
    const ends = line.split('>').flatMap((id) => stageOf(train, id) ?? [])
    const [first] = ends
    if (first && !ends.some(stands)) under.push(first)
  }
  return under
}

export function catchUnder(phase: string, under: readonly StageNode[], work: Work): void {
  under.forEach((stage, index) => void putUnder(phase, stage, index > 0, work))
}

function putUnder(phase: string, stage: StageNode, another: boolean, work: Work): void {
  const fridge = stage.housing === 'fridge-cartridge'
  work.add(phase, 'catch', [stage.id], {
    text: fridge
      ? say`Lay a towel under the cartridge`
      : another
        ? say`Put a tray and towels under ${stageLabel(stage)} too`
        : say`Put the tray and towels underneath`,
    why: fridge ? say`A mouthful of water comes with it.` : say`The housing comes off full of water, over somebody’s floor.`,
    tools: fridge ? [] : [say`catch tray`],
    consumables: ['towels'],
  })
}

/** A well's pump is driven by a switch that feels its pressure tank. */
const isWellPump = (plan: Plan, id: string): boolean => nodesOf(plan.train, 'pump').some((pump) => pump.id === id && pump.type === 'well')

/** Shut, something underneath, relieved: every mishap starts where one of these was left out. */
export function isolate(
  phase: string,
  plan: Plan,
  isolation: Isolation,
  due: readonly Due[],
  lines: readonly string[],
  work: Work,
  /** A bypass that is turned to service once the water is shut, so that a tap lets its section out. */
  toService: string | null = null,
  /** What a tray goes under before anything is eased, cocked or opened; none where it stands there. */
  under: readonly StageNode[] = [],
): void {
  // After a bed that was left to soak something stands shut, or off, already.
  const { state } = work
  if (isolation.bypass !== null && !state.bypassed.has(isolation.bypass)) {
    work.add(phase, 'turn', [isolation.bypass], {
      to: 'bypass',
      text: say`Turn the bypass: water goes round the set`,
      why: say`The customer’s water goes on while the set is open. The indicator fills wholly; either direction can be right.`,
    })
  }
  for (const pump of isolation.pumps.filter((id) => !state.still.has(id))) {
    work.add(phase, 'power-off', [pump], {
      text: say`Switch ${pumpLabel(plan.train, pump)} off${isWellPump(plan, pump) ? say` at its switch by the pressure tank` : ''}, and tag it`,
      why: say`A pump that starts on a falling pressure would feed the open housing, or run dry.`,
      caution: MAINS(),
    })
  }
  for (const heater of isolation.heaters.filter((id) => !state.off.has(id))) {
    work.add(phase, 'power-off', [heater], {
      text: say`Switch the water heater off`,
      why: caution`Its water may run out by an open tap: a heater that heats dry is ruined, and dangerous.`,
      caution: caution`Hot water and mains electricity.`,
    })
  }
  for (const id of isolation.close) if (!state.shut.has(id)) shut(phase, plan, id, work)
  storage(phase, plan, isolation.tanks, work)
  if (toService !== null) {
    work.add(phase, 'turn', [toService], {
      to: 'service',
      text: say`Turn the bypass to service while the water is shut`,
      why: say`The tap can then let the section out; no water comes yet.`,
    })
  }
  catchUnder(phase, under, work)
  relieve(
    phase,
    plan,
    due.map(({ stage }) => stage),
    lines,
    work,
  )
}

/** The same shut-offs again, after a flush, for putting lines back: tanks stayed shut meanwhile. */
export function isolateAgain(phase: string, plan: Plan, isolation: Isolation, lines: readonly string[], work: Work): void {
  if (isolation.bypass !== null)
    work.add(phase, 'turn', [isolation.bypass], {
      to: 'bypass',
      text: say`Turn the bypass again`,
      why: say`The line goes back on without water behind it.`,
    })
  // Before its inlet is shut: a pump never runs dry.
  for (const pump of isolation.pumps)
    work.add(phase, 'power-off', [pump], {
      text: say`Switch ${pumpLabel(plan.train, pump)} off again`,
      why: say`It must not start while the line is open, nor run dry.`,
    })
  for (const id of isolation.close)
    work.add(phase, 'close', [id], {
      text: say`Shut ${valveLabel(plan.train, id)} again`,
      why: say`The line goes back on without water behind it.`,
    })
  for (const { id, close } of isolation.tanks)
    if (!close && !work.state.emptied.has(id)) storage(phase, plan, [{ id, drain: true, close: false }], work)
  relieveLines(phase, plan, lines, work)
}

/** Lets out again what came back since: a line is taken off only without pressure. */
export function relieveAgain(phase: string, plan: Plan, lines: readonly string[], work: Work): void {
  const still = lines.filter((line) => stillPressed(work.state, openedChambers(plan.train, [], [line], work.state.bypassed)))
  if (still.length > 0) relieve(phase, plan, [], still, work)
}

function relieveLines(phase: string, plan: Plan, lines: readonly string[], work: Work): void {
  for (const line of lines) relieveAt(phase, plan, line, work)
  relieveAgain(`${phase}-more`, plan, lines, work)
}
