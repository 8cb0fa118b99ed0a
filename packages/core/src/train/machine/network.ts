import type { StageNode, Train } from '../types'

/** What decides which waters of a train are joined. */
export interface Joints {
  /** Valves, tanks and own shut-offs that are shut, by id. */
  shut: ReadonlySet<string>
  /** Pumps that stand still, by id. */
  still: ReadonlySet<string>
  /** Lines taken off, as `"from>to"`. */
  apart: ReadonlySet<string>
  /** Bypasses turned to bypass, by id. */
  bypassed: ReadonlySet<string>
}

/** A body of water: a node, or one side of a node that can part two waters. `x<` is what enters it, `x>` what leaves. */
export type Chamber = string

const isMembrane = (node: { kind: string; media?: string }): boolean => node.kind === 'stage' && node.media === 'membrane'
const hasSides = (node: Train['nodes'][number]): boolean => node.kind === 'valve' || node.kind === 'pump' || isMembrane(node)

export const inOf = (train: Train, id: string): Chamber => (hasSides(nodeOf(train, id)) ? `${id}<` : id)
export const outOf = (train: Train, id: string): Chamber => (hasSides(nodeOf(train, id)) ? `${id}>` : id)

/** A sheet asks for the same nodes thousands of times. */
const byId = new WeakMap<Train, Map<string, Train['nodes'][number]>>()
function nodeOf(train: Train, id: string): Train['nodes'][number] {
  const known = byId.get(train) ?? new Map(train.nodes.map((node) => [node.id, node]))
  byId.set(train, known)
  return known.get(id) ?? { id, kind: 'tee' }
}

/** The bodies of water a stage's housing holds: a membrane's vessel holds two. */
export const chambersOf = (train: Train, id: string): Chamber[] => [...new Set([inOf(train, id), outOf(train, id)])]

export interface Edge {
  from: Chamber
  to: Chamber
  /** A check valve: water and pressure pass forward only. */
  oneWay: boolean
}

/** The bodies of water a line, `"from>to"`, holds: its two ends, or the one on the set's side where a bypass that is on cuts it. */
export function endsOf(train: Train, line: string, bypassed: ReadonlySet<string>): Chamber[] {
  const [from = '', to = ''] = line.split('>')
  const around = train.nodes.filter((node) => node.kind === 'bypass' && bypassed.has(node.id))
  const ends: Chamber[] = []
  if (!around.some((node) => node.kind === 'bypass' && node.enters === to)) ends.push(leaves(train, from, to))
  if (!around.some((node) => node.kind === 'bypass' && node.leaves === from)) ends.push(inOf(train, to))
  return ends
}

/** A membrane gives its feed side to a drain and its product side to everything else. */
const leaves = (train: Train, from: string, to: string): Chamber =>
  isMembrane(nodeOf(train, from)) && nodeOf(train, to).kind === 'drain' ? `${from}<` : outOf(train, from)

/** Which bodies of water are joined now. */
export function edgesOf(train: Train, { shut, still, apart, bypassed }: Joints): Edge[] {
  const edges: Edge[] = []
  const cut = new Set<string>()
  for (const node of train.nodes) {
    if (node.kind === 'valve' && !shut.has(node.id)) edges.push({ from: `${node.id}<`, to: `${node.id}>`, oneWay: false })
    if (node.kind === 'pump' && !still.has(node.id)) edges.push({ from: `${node.id}<`, to: `${node.id}>`, oneWay: false })
    if (node.kind !== 'bypass' || !bypassed.has(node.id)) continue
    const into = train.pipes.filter(({ to }) => to === node.enters)
    const outOfIt = train.pipes.filter(({ from }) => from === node.leaves)
    for (const { from, to } of [...into, ...outOfIt]) cut.add(`${from}>${to}`)
    for (const before of into)
      for (const after of outOfIt) edges.push({ from: leaves(train, before.from, before.to), to: inOf(train, after.to), oneWay: false })
  }
  for (const { from, to, check } of train.pipes) {
    const line = `${from}>${to}`
    if (apart.has(line) || cut.has(line)) continue
    const target = nodeOf(train, to)
    const source = nodeOf(train, from)
    if (target.kind === 'tank' && shut.has(to)) continue
    // The main itself can be shut where nothing nearer is to be trusted.
    if ((source.kind === 'tank' || source.kind === 'source') && shut.has(from)) continue
    if (target.kind === 'stage' && (target as StageNode).ownShutoff && shut.has(to)) continue
    edges.push({ from: leaves(train, from, to), to: inOf(train, to), oneWay: check === true })
  }
  return edges
}

/** Where water presses from by itself: the main, and tanks with something in them. */
export const sources = (train: Train, emptied: ReadonlySet<string>): Chamber[] =>
  train.nodes.flatMap(({ id, kind }) => (kind === 'source' || (kind === 'tank' && !emptied.has(id)) ? [outOf(train, id)] : []))

/** Everything these bodies of water press on. */
export function pressedBy(edges: readonly Edge[], from: Iterable<Chamber>): Set<Chamber> {
  return spread(from, neighbours(edges, 'forward'))
}

/** Everything whose water can leave by this one. */
export function emptiedBy(edges: readonly Edge[], by: Chamber): Set<Chamber> {
  return spread([by], neighbours(edges, 'back'))
}

function neighbours(edges: readonly Edge[], way: 'forward' | 'back'): Map<Chamber, Chamber[]> {
  const to = new Map<Chamber, Chamber[]>()
  const join = (a: Chamber, b: Chamber): void => void (to.get(a)?.push(b) ?? to.set(a, [b]))
  for (const edge of edges) {
    if (!edge.oneWay || way === 'forward') join(edge.from, edge.to)
    if (!edge.oneWay || way === 'back') join(edge.to, edge.from)
  }
  return to
}

/** Everything water comes to in time: pressure stops at a membrane, water seeps through it. */
export function wateredBy(train: Train, edges: readonly Edge[], from: Iterable<Chamber>): Set<Chamber> {
  const through = train.nodes.filter(isMembrane).map(({ id }): Edge => ({ from: `${id}<`, to: `${id}>`, oneWay: true }))
  return pressedBy([...edges, ...through], from)
}

/** Everything these go on to, themselves with it. */
export function spread(from: Iterable<Chamber>, next: Pick<ReadonlyMap<Chamber, readonly Chamber[]>, 'get'>): Set<Chamber> {
  const seen = new Set(from)
  const waiting = [...seen]
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    for (const to of next.get(at) ?? []) {
      if (seen.has(to)) continue
      seen.add(to)
      waiting.push(to)
    }
  }
  return seen
}

/**
 * Nodes the water meets from a stage to where it is let out, in order, the stage first; null where no way is open. `to` is a node, or
 * a line that is off, whose open end is where the line begins. Of several ways the first in the order of the pipes.
 */
export function wayOut(train: Train, joints: Joints, stage: string, to: string): string[] | null {
  if (to.includes('>') && !joints.apart.has(to)) return null
  const end = to.includes('>') ? (to.split('>')[0] as string) : to
  const open = forwardOf(train, joints)
  const dead = new Set<string>()
  const walk = (id: string): string[] | null => {
    if (id === end) return [id]
    dead.add(id)
    for (const next of open.get(id) ?? []) {
      if (dead.has(next)) continue
      const rest = walk(next)
      if (rest) return [id, ...rest]
    }
    return null
  }
  return walk(stage)
}

/** Which nodes the water of each goes on to, in service direction, as the joints are now. */
export function forwardOf(train: Train, joints: Joints): Map<string, string[]> {
  const edges = new Set(edgesOf(train, joints).map(({ from, to }) => `${from} ${to}`))
  const next = new Map<string, string[]>()
  const join = (from: string, to: string): void => {
    const through = nodeOf(train, to)
    if (through.kind === 'valve' && joints.shut.has(to)) return
    if (!edges.has(`${leaves(train, from, to)} ${inOf(train, to)}`)) return
    next.set(from, [...(next.get(from) ?? []), to])
  }
  for (const { from, to } of train.pipes) join(from, to)
  for (const node of train.nodes) {
    if (node.kind !== 'bypass' || !joints.bypassed.has(node.id)) continue
    const into = train.pipes.filter(({ to }) => to === node.enters)
    const outOfIt = train.pipes.filter(({ from }) => from === node.leaves)
    for (const before of into) for (const after of outOfIt) join(before.from, after.to)
  }
  return next
}
