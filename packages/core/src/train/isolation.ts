import { CARBONS } from '../catalogue/names'
import { comesTo, goesRound, isHot } from './graph'
import {
  type Chamber,
  chambersOf,
  type Edge,
  edgesOf,
  emptiedBy,
  endsOf,
  inOf,
  type Joints,
  outOf,
  pressedBy,
  wateredBy,
} from './machine/network'
import { pumpsAgainst } from './machine/pumps'
import { inService, isInline, type TrainState } from './machine/state'
import { lineName, nodesOf, outlets, type Plan, tanks } from './plan'
import type { StageNode, Train, TrainNode } from './types'

type BypassNode = Extract<TrainNode, { kind: 'bypass' }>

/** What keeps the water away while some stages are open. */
export interface Isolation {
  bypass: string | null
  /** Valves, own shut-offs or, where nothing nearer is to be trusted, the main; in flow order. */
  close: string[]
  tanks: { id: string; drain: boolean; close: boolean }[]
  pumps: string[]
  /** Heaters that would stand without water. */
  heaters: string[]
}

/** Nothing is shut, and nothing has to be opened again. */
export const NOTHING_SHUT: Isolation = { bypass: null, close: [], tanks: [], pumps: [], heaters: [] }

/** The bodies of water that opening these stages, or taking off these lines, opens. */
export function openedChambers(
  train: Train,
  stages: readonly StageNode[],
  lines: readonly string[],
  bypassed: ReadonlySet<string>,
): Chamber[] {
  const own = stages.flatMap((stage) =>
    isInline(stage)
      ? train.pipes
          .filter(({ from, to }) => from === stage.id || to === stage.id)
          .flatMap((pipe) => endsOf(train, lineName(pipe), bypassed))
      : chambersOf(train, stage.id),
  )
  return [...new Set([...own, ...lines.flatMap((line) => endsOf(train, line, bypassed))])]
}

const jointsOf = (state: Joints): Joints => ({
  shut: new Set(state.shut),
  still: new Set(state.still),
  apart: new Set(state.apart),
  bypassed: new Set(state.bypassed),
})

const withShut = (joints: Joints, more: readonly string[]): Joints => ({ ...joints, shut: new Set([...joints.shut, ...more]) })
const mains = (train: Train, joints: Joints): Chamber[] =>
  nodesOf(train, 'source').flatMap(({ id }) => (joints.shut.has(id) ? [] : [outOf(train, id)]))
/** What the main's water comes to: through a membrane it only seeps, but it drips out of an open line all the same. */
const fedBy = (train: Train, joints: Joints, edges = edgesOf(train, joints)): Set<Chamber> => wateredBy(train, edges, mains(train, joints))

/** Places where pressure can be let out of a section without opening it. */
export function reliefPoints(train: Train): string[] {
  return train.nodes.flatMap((node) => {
    // A hot tap is no relief: it scalds, and it empties the heater.
    if (node.kind === 'outlet') return isHot(train, node.id) ? [] : [node.id]
    if (node.kind === 'drain') return [node.id]
    if (node.kind !== 'stage') return []
    return [...(node.reliefButton ? [`${node.id}.button`] : []), ...((node.drainCocks ?? 0) > 0 ? [`${node.id}.cock`] : [])]
  })
}
const pointChamber = (train: Train, point: string): Chamber => inOf(train, point.split('.')[0] as string)

/** Target bodies of water that nothing without pressure of its own lets out of. */
function unrelieved(train: Train, edges: readonly Edge[], fed: ReadonlySet<Chamber>, targets: readonly Chamber[]): number {
  const freed = new Set<Chamber>()
  for (const point of reliefPoints(train)) {
    const chamber = pointChamber(train, point)
    if (!fed.has(chamber) && !freed.has(chamber)) for (const one of emptiedBy(edges, chamber)) freed.add(one)
  }
  return targets.filter((one) => !freed.has(one)).length
}

interface Choice {
  close: string[]
  price: number
}
const PRICE = { valve: 6, mustGoOn: 60, outlet: 30, unrelieved: 100, own: 1, chamber: 0.1 }

/** What shutting these costs: people without water, work, and, where it is opened, water that nothing lets out; null where it keeps nothing away. */
function priced(
  plan: Plan,
  joints: Joints,
  targets: readonly Chamber[],
  close: readonly string[],
  before: ReadonlySet<Chamber>,
  opens: boolean,
): Choice | null {
  const { train } = plan
  const shut = withShut(joints, close)
  const edges = edgesOf(train, shut)
  const fed = fedBy(train, shut, edges)
  if (targets.some((one) => fed.has(one))) return null
  const cut = outlets(train).filter(({ id }) => before.has(id) && !fed.has(id))
  const own = close.filter((id) => train.nodes.some((node) => node.id === id && node.kind === 'stage')).length
  const price =
    PRICE.valve * close.length +
    PRICE.own * own +
    PRICE.outlet * cut.length +
    PRICE.mustGoOn * cut.filter(({ mustGoOn }) => mustGoOn).length +
    (opens ? PRICE.unrelieved * unrelieved(train, edges, fed, targets) : 0) +
    PRICE.chamber * [...before].filter((one) => !fed.has(one)).length
  return { close: [...close], price }
}

const MOST_TOGETHER = 3
/** Threes of more shut-offs than this are not gone through: all are shut then. */
const FEW = 24

/** The cheapest set of trusted shut-offs that keeps the main away from these waters; empty where nothing has to be shut, null where none does. */
function closings(plan: Plan, joints: Joints, targets: readonly Chamber[], opens = true): string[] | null {
  const { train } = plan
  const bad = new Set([...plan.untrusted, ...plan.passing])
  const before = fedBy(train, joints)
  if (!targets.some((one) => before.has(one))) return []
  const candidates = train.nodes.flatMap((node) =>
    (node.kind === 'valve' || (node.kind === 'stage' && node.ownShutoff === true)) && !joints.shut.has(node.id) && !bad.has(node.id)
      ? [node.id]
      : [],
  )
  let best: Choice | null = null
  const tried = (close: string[]): void => {
    const choice = priced(plan, joints, targets, close, before, opens)
    if (choice && (best === null || choice.price < best.price)) best = choice
  }
  const grow = (close: string[], from: number, size: number): void => {
    if (close.length === size) tried(close)
    else for (let index = from; index < candidates.length; index++) grow([...close, candidates[index] as string], index + 1, size)
  }
  for (let size = 1; size <= MOST_TOGETHER; size++) {
    // Three together only where one or two do nothing.
    if (size === MOST_TOGETHER && (best !== null || candidates.length > FEW)) break
    grow([], 0, size)
  }
  return (best as Choice | null)?.close ?? (priced(plan, joints, targets, candidates, before, opens) ? candidates : null)
}

/** Pumps whose water would come to these stages were every valve open. */
function pumpsFeeding(train: Train, joints: Joints, targets: readonly Chamber[]): string[] {
  const open = edgesOf(train, { ...joints, shut: new Set(), still: new Set() }).map((edge) => ({ ...edge, oneWay: true }))
  return nodesOf(train, 'pump').flatMap(({ id }) => {
    const pressed = pressedBy(open, [outOf(train, id)])
    return targets.some((one) => pressed.has(one)) ? [id] : []
  })
}

/** It keeps germs, or what a membrane keeps, from people, or chlorine from a membrane: what goes round it is not to be drunk, or ruins what follows. */
function isBarrier(train: Train, bypass: BypassNode): boolean {
  const round = nodesOf(train, 'stage').filter(({ id }) => goesRound(train, bypass, id))
  if (round.some(({ housing, media }) => housing === 'uv-reactor' || media === 'membrane')) return true
  const membranes = nodesOf(train, 'stage').filter((stage) => stage.media === 'membrane' && !round.includes(stage))
  return round.some(({ media }) => CARBONS.includes(media)) && membranes.some(({ id }) => comesTo(train, bypass.leaves, id))
}

/** The bypass to turn for this work: where one goes round it, always, other than round a barrier; there only where water must go on. */
function bypassFor(plan: Plan, joints: Joints, stages: readonly StageNode[], lines: readonly string[]): string | null {
  const { train } = plan
  const round = nodesOf(train, 'bypass').filter(
    (bypass) => !plan.untrusted.has(bypass.id) && stages.every((stage) => goesRound(train, bypass, stage.id)),
  )
  const needed = outlets(train).some(({ mustGoOn }) => mustGoOn)
  const found = round.find((bypass) => {
    const turned: Joints = { ...joints, bypassed: new Set([...joints.bypassed, bypass.id]) }
    const targets = openedChambers(train, stages, lines, turned.bypassed)
    const edges = edgesOf(train, turned)
    const fed = fedBy(train, turned, edges)
    if (targets.some((one) => fed.has(one))) return false
    return needed || !isBarrier(train, bypass) || unrelieved(train, edges, fed, targets) === 0
  })
  return found?.id ?? null
}

/** Tanks that stand in one water with these bodies, whatever membranes and check valves lie between. */
function tanksAbout(train: Train, joints: Joints, targets: readonly Chamber[]): string[] {
  const loose = edgesOf(train, joints).map((edge) => ({ ...edge, oneWay: false }))
  const through = train.nodes.flatMap((node) =>
    node.kind === 'stage' && node.media === 'membrane' ? [{ from: `${node.id}<`, to: `${node.id}>`, oneWay: false }] : [],
  )
  const joined = pressedBy([...loose, ...through], targets)
  return tanks(train).flatMap(({ id }) => (joined.has(id) && !joints.shut.has(id) ? [id] : []))
}

/**
 * How to keep water away from these stages and lines, from the state the train is in; null where no shut-off that is trusted does.
 * Few shut-offs, near the work, none that takes water from somebody who must have it, and such that taps can let the section out.
 */
export function chooseIsolation(plan: Plan, state: TrainState, stages: readonly StageNode[], lines: readonly string[]): Isolation | null {
  const { train, schools, untrusted, passing } = plan
  const joints = jointsOf(state)
  const bypass = bypassFor(plan, joints, stages, lines)
  const turned: Joints = bypass === null ? joints : { ...joints, bypassed: new Set([...joints.bypassed, bypass]) }
  const targets = openedChambers(train, stages, lines, turned.bypassed)
  // The main itself is shut where nothing nearer is left that is trusted: never from the drawing alone.
  const sources = nodesOf(train, 'source').map(({ id }) => id)
  const main = untrusted.size + passing.size > 0 && !sources.some((id) => passing.has(id)) ? sources : null
  // What lets water pass is no help to the choice, but is shut all the same.
  const leaky = train.nodes.flatMap(({ id }) => (passing.has(id) && !sources.includes(id) && !joints.shut.has(id) ? [id] : []))
  const needed = closings(plan, turned, targets) ?? main
  if (needed === null) return null
  const close = needed.length === 0 ? [] : [...leaky, ...needed]
  const shut = withShut(turned, close)
  const joined = edgesOf(train, shut)
  const presses = (tank: string): boolean => {
    const pressed = pressedBy(joined, [tank])
    return targets.some((one) => pressed.has(one))
  }
  const about = tanksAbout(train, shut, targets).flatMap((id) => {
    const tank = tanks(train).find((one) => one.id === id)
    const valve = tank?.valve === true && !untrusted.has(id)
    const drain = schools.tankWater === 'drain' || (!valve && presses(id))
    return valve || drain ? [{ id, drain, close: valve }] : []
  })
  const still = pumpsFeeding(train, shut, targets)
  const after = withShut(
    { ...shut, still: new Set([...shut.still, ...still]) },
    about.filter((tank) => tank.close).map(({ id }) => id),
  )
  const now = fedBy(train, joints)
  const watered = fedBy(train, after)
  const dry = (id: string): boolean => now.has(inOf(train, id)) && !watered.has(inOf(train, id))
  // A pump whose water would meet shut valves alone is switched off too.
  const against = pumpsAgainst(train, after)
  const pumps = nodesOf(train, 'pump').flatMap(({ id }) => (still.includes(id) || dry(id) || against.includes(id) ? [id] : []))
  return {
    bypass,
    close,
    tanks: about,
    pumps: pumps.filter((id) => !state.still.has(id)),
    heaters: nodesOf(train, 'heater').flatMap(({ id }) => (dry(id) && !state.off.has(id) ? [id] : [])),
  }
}

/** What is shut so that these stages stand full and nothing is drawn through them, the train otherwise in service; null where nothing does. */
export function standingShut(plan: Plan, stages: readonly StageNode[]): { close: string[]; goesOn: boolean } | null {
  const { train } = plan
  const service = jointsOf(inService(train))
  const close = closings(plan, service, openedChambers(train, stages, [], service.bypassed), false)
  if (close === null) return null
  const [before, after] = [fedBy(train, service), fedBy(train, withShut(service, close))]
  return { close, goesOn: outlets(train).every(({ id }) => !before.has(id) || after.has(id)) }
}

/** Whether keeping water away from these stages leaves an outlet without any, or with what a barrier should have kept back. */
export function cutOff(plan: Plan, state: TrainState, stages: readonly StageNode[]): boolean {
  const { train } = plan
  const isolation = chooseIsolation(plan, state, stages, [])
  if (isolation === null) return true
  const turned = nodesOf(train, 'bypass').find(({ id }) => id === isolation.bypass)
  if (turned && isBarrier(train, turned)) return true
  const before = fedBy(train, jointsOf(state))
  const after = fedBy(train, {
    ...withShut(jointsOf(state), isolation.close),
    still: new Set([...state.still, ...isolation.pumps]),
    bypassed: new Set([...state.bypassed, ...(isolation.bypass === null ? [] : [isolation.bypass])]),
  })
  return outlets(train).some(({ id }) => before.has(id) && !after.has(id))
}
