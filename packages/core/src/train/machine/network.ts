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
  let known = byId.get(train)
  if (known === undefined) {
    known = new Map(train.nodes.map((node) => [node.id, node]))
    byId.set(train, known)
  }
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

/** A pipe as it joins two waters, and what parts them there. */
interface Laid {
  line: string
  from: string
  to: string
  edge: Edge
  /** Ids any of which, shut, closes it. */
  closedBy: readonly string[]
}
/** A bypass as it joins the waters before and after it while it is on. */
interface Around {
  id: string
  /** The lines it cuts off. */
  cuts: readonly string[]
  joins: readonly { from: string; to: string; edge: Edge }[]
}
/** All that is joined in a train, whatever stands open now. */
interface Layout {
  /** Valves and pumps by the set of joints that parts them. */
  sided: readonly { id: string; by: 'shut' | 'still'; edge: Edge }[]
  around: readonly Around[]
  laid: readonly Laid[]
  /** The main, and tanks. */
  presses: readonly { id: string; tank: boolean; at: Chamber }[]
}

/** A state is tried thousands of times over one train: what does not change with it is laid out once. */
const layouts = new WeakMap<Train, Layout>()
function layoutOf(train: Train): Layout {
  let layout = layouts.get(train)
  if (layout === undefined) {
    layout = layOut(train)
    layouts.set(train, layout)
  }
  return layout
}

function layOut(train: Train): Layout {
  const sided: Layout['sided'][number][] = []
  const around: Around[] = []
  for (const node of train.nodes) {
    const across: Edge = { from: `${node.id}<`, to: `${node.id}>`, oneWay: false }
    if (node.kind === 'valve') sided.push({ id: node.id, by: 'shut', edge: across })
    if (node.kind === 'pump') sided.push({ id: node.id, by: 'still', edge: across })
    if (node.kind !== 'bypass') continue
    const into = train.pipes.filter(({ to }) => to === node.enters)
    const outOfIt = train.pipes.filter(({ from }) => from === node.leaves)
    around.push({
      id: node.id,
      cuts: [...into, ...outOfIt].map(({ from, to }) => `${from}>${to}`),
      joins: into.flatMap((before) =>
        outOfIt.map((after) => ({
          from: before.from,
          to: after.to,
          edge: { from: leaves(train, before.from, before.to), to: inOf(train, after.to), oneWay: false },
        })),
      ),
    })
  }
  const laid = train.pipes.map(({ from, to, check }): Laid => {
    const [source, target] = [nodeOf(train, from), nodeOf(train, to)]
    // The main itself can be shut where nothing nearer is to be trusted.
    const atStart = source.kind === 'tank' || source.kind === 'source' ? [from] : []
    const atEnd = target.kind === 'tank' || (target.kind === 'stage' && (target as StageNode).ownShutoff) ? [to] : []
    const edge = { from: leaves(train, from, to), to: inOf(train, to), oneWay: check === true }
    return { line: `${from}>${to}`, from, to, edge, closedBy: [...atStart, ...atEnd] }
  })
  const presses = train.nodes.flatMap(({ id, kind }) =>
    kind === 'source' || kind === 'tank' ? [{ id, tank: kind === 'tank', at: outOf(train, id) }] : [],
  )
  return { sided, around, laid, presses }
}

/** The pipes water can pass now: not taken off, not cut by a bypass that is on, not shut at either end. */
function openPipes({ around, laid }: Layout, { shut, apart, bypassed }: Joints): Laid[] {
  const cut = new Set(around.flatMap(({ id, cuts }) => (bypassed.has(id) ? cuts : [])))
  return laid.filter(({ line, closedBy }) => !apart.has(line) && !cut.has(line) && !closedBy.some((id) => shut.has(id)))
}

/** Which bodies of water are joined now. */
export function edgesOf(train: Train, joints: Joints): readonly Edge[] {
  const layout = layoutOf(train)
  const edges: Edge[] = []
  for (const { id, by, edge } of layout.sided) if (!joints[by].has(id)) edges.push(edge)
  for (const { id, joins } of layout.around) if (joints.bypassed.has(id)) for (const { edge } of joins) edges.push(edge)
  for (const { edge } of openPipes(layout, joints)) edges.push(edge)
  return edges
}

/** Where water presses from by itself: the main, and tanks with something in them. */
export const sources = (train: Train, emptied: ReadonlySet<string>): Chamber[] =>
  layoutOf(train).presses.flatMap(({ id, tank, at }) => (tank && emptied.has(id) ? [] : [at]))

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
 * a line that is off, whose open end is where the line begins. Of several ways the first in the order of the pipes. Who asks for many ways
 * in one state brings what is open then.
 */
export function wayOut(train: Train, joints: Joints, stage: string, to: string, open = forwardOf(train, joints)): string[] | null {
  if (to.includes('>') && !joints.apart.has(to)) return null
  const end = to.includes('>') ? (to.split('>')[0] as string) : to
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
  const layout = layoutOf(train)
  const next = new Map<string, string[]>()
  const join = (from: string, to: string): void => {
    if (joints.shut.has(to) && nodeOf(train, to).kind === 'valve') return
    const known = next.get(from)
    if (known) known.push(to)
    else next.set(from, [to])
  }
  for (const { from, to } of openPipes(layout, joints)) join(from, to)
  for (const { id, joins } of layout.around) if (joints.bypassed.has(id)) for (const { from, to } of joins) join(from, to)
  return next
}
