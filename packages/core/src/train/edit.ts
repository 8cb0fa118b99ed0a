import type { OwnKind } from '../catalogue/own-kinds'
import { flowPath, nodeById, stagesInFlow } from './graph'
import type { StageNode, Train, TrainNode, TrainPipe } from './types'

/** Every edit gives a new train and leaves the old one as it was, so that undoing is going back. */

const stagesByFlow = (train: Train): string[] => {
  const rank = ranks(train)
  const stages = stagesInFlow(train)
  return stages.map(({ id }) => id).sort((a, b) => (rank.get(a) ?? 1e6) - (rank.get(b) ?? 1e6) || position(train, a) - position(train, b))
}
const position = (train: Train, id: string): number => (nodeById(train, id) as StageNode).position

/** How far along the water each node stands: the longest way from the source. */
function ranks(train: Train): Map<string, number> {
  const rank = new Map<string, number>()
  const visit = (id: string, depth: number, seen: ReadonlySet<string>): void => {
    if ((rank.get(id) ?? -1) < depth) rank.set(id, depth)
    for (const { from, to } of train.pipes) if (from === id && !seen.has(to)) visit(to, depth + 1, new Set(seen).add(to))
  }
  for (const node of train.nodes) if (node.kind === 'source') visit(node.id, 0, new Set([node.id]))
  return rank
}

/** Positions as whole numbers from 1 in flow order; what hangs in no pipe comes last. */
export function renumbered(train: Train): Train {
  const order = stagesByFlow(train)
  return { ...train, nodes: train.nodes.map((node) => (node.kind === 'stage' ? { ...node, position: order.indexOf(node.id) + 1 } : node)) }
}

const isDrySlot = (node: TrainNode): boolean => node.kind === 'stage' && node.housing === 'dry-slot'

/** The pipe that goes on from a node towards the tap; undefined after the last. */
function pipeOn(train: Train, after: string): TrainPipe | undefined {
  const path = flowPath(train).map(({ id }) => id)
  const next = path[path.indexOf(after) + 1]
  return train.pipes.find(({ from, to }) => from === after && to === next)
}

/** Puts a node into the line after another one; a part of a dry slot goes into no pipe. Throws `RangeError` where no line goes on. */
export function insertAfter(train: Train, after: string, node: TrainNode): Train {
  if (isDrySlot(node)) return renumbered({ ...train, nodes: [...train.nodes, node] })
  const cut = pipeOn(train, after)
  if (!cut) throw new RangeError(`no line goes on after ${after}`)
  const pipes = train.pipes.flatMap((pipe) =>
    pipe === cut
      ? [
          { ...pipe, to: node.id },
          { from: node.id, to: cut.to },
        ]
      : [pipe],
  )
  const bypassed = train.nodes.map((one) =>
    one.kind === 'bypass' && one.leaves === after && node.kind === 'stage' ? { ...one, leaves: node.id } : one,
  )
  return renumbered(withDrain({ nodes: [...bypassed, node], pipes }, node))
}

/** A membrane always has a drain side. */
function withDrain(train: Train, node: TrainNode): Train {
  if (node.kind !== 'stage' || node.media !== 'membrane') return train
  const drain = `${node.id}-drain`
  return { nodes: [...train.nodes, { id: drain, kind: 'drain' }], pipes: [...train.pipes, { from: node.id, to: drain, restrictor: true }] }
}

const hangsOn = (train: Train, id: string): string[] =>
  train.pipes.flatMap(({ from, to }) => (from === id && ['drain', 'tank'].includes(nodeById(train, to).kind) ? [to] : []))

/** Takes a node out and joins the line again; its drain or tank goes with it. The source and the last outlet stay. */
export function removeNode(train: Train, id: string): Train {
  const node = nodeById(train, id)
  const lastOutlet = node.kind === 'outlet' && train.nodes.filter(({ kind }) => kind === 'outlet').length === 1
  if (node.kind === 'source' || lastOutlet) return train
  if (node.kind === 'tank') {
    const tee = train.pipes.find(({ to }) => to === id)?.from
    return tee === undefined ? train : removeNode(without(train, [id]), tee)
  }
  const gone = [id, ...hangsOn(train, id)]
  const before = train.pipes.filter(({ to }) => to === id)
  const after = train.pipes.filter(({ from, to }) => from === id && !gone.includes(to))
  const joined = before.flatMap(({ from, check }) => after.map(({ to }): TrainPipe => ({ from, to, ...(check ? { check } : {}) })))
  const rest = without(train, gone)
  return renumbered(tidy(bypassesWithout(train, { nodes: rest.nodes, pipes: [...rest.pipes, ...joined] }, id)))
}

const without = (train: Train, ids: readonly string[]): Train => ({
  nodes: train.nodes.filter(({ id }) => !ids.includes(id)),
  pipes: train.pipes.filter(({ from, to }) => !ids.includes(from) && !ids.includes(to)),
})

/** A bypass whose end went away ends at the neighbour inside it, or goes where nothing is left to go round. */
function bypassesWithout(old: Train, now: Train, id: string): Train {
  const path = flowPath(old).map((node) => node.id)
  const nodes = now.nodes.flatMap((node): TrainNode[] => {
    if (node.kind !== 'bypass' || (node.enters !== id && node.leaves !== id)) return [node]
    if (node.enters === node.leaves) return []
    const inside = (step: 1 | -1): string => path[path.indexOf(id) + step] as string
    return [{ ...node, enters: node.enters === id ? inside(1) : node.enters, leaves: node.leaves === id ? inside(-1) : node.leaves }]
  })
  return { ...now, nodes }
}

/** Tees that part nothing any more go: one line in and one out. */
function tidy(train: Train): Train {
  const idle = train.nodes.find(
    ({ id, kind }) =>
      kind === 'tee' &&
      train.pipes.filter(({ to }) => to === id).length === 1 &&
      train.pipes.filter(({ from }) => from === id).length === 1,
  )
  return idle ? tidy(removeNode(train, idle.id)) : train
}

/** Changes places with the next stage up or down the flow; the same train at either end. */
export function moveStage(train: Train, id: string, by: -1 | 1): Train {
  const order = stagesByFlow(train)
  const other = order[order.indexOf(id) + by]
  if (other === undefined || isDrySlot(nodeById(train, other)) || isDrySlot(nodeById(train, id))) return train
  const swap = (one: string): string => (one === id ? other : one === other ? id : one)
  const drains = new Set(train.nodes.flatMap((node) => (node.kind === 'drain' ? [node.id] : [])))
  // A membrane keeps its drain side wherever it stands.
  const pipes = train.pipes.map((pipe) => (drains.has(pipe.to) ? pipe : { ...pipe, from: swap(pipe.from), to: swap(pipe.to) }))
  const place = (one: string): number => position(train, swap(one))
  const nodes = train.nodes.map((node) => {
    if (node.kind === 'bypass') return { ...node, enters: swap(node.enters), leaves: swap(node.leaves) }
    return node.kind === 'stage' ? { ...node, position: place(node.id) } : node
  })
  return renumbered({ nodes, pipes })
}

/** Changes what is known of a node. */
export function changeNode<K extends TrainNode['kind']>(train: Train, id: string, patch: Partial<Extract<TrainNode, { kind: K }>>): Train {
  const nodes = train.nodes.map((node) => (node.id === id ? ({ ...node, ...patch, id, kind: node.kind } as TrainNode) : node))
  return { ...train, nodes }
}

/** What may be known of a node beside what it is, or not. */
export interface KnownOfNode {
  /** Outlets on one plug, and lamp and sleeve in one reactor, share a word. */
  appliance: string
  reactor: string
  /** Measured at the outlet, L/min. */
  flowLMin: number
  /** Litres of medium in a tank. */
  bedL: number
  type: 'well' | 'booster' | 'delivery'
}

/** Says what is known of a node; null: nobody knows, and the careful reading holds. */
export function sayKnown<K extends keyof KnownOfNode>(train: Train, id: string, what: K, value: KnownOfNode[K] | null): Train {
  const nodes = train.nodes.map((node) => {
    if (node.id !== id) return node
    const { [what]: _, ...rest } = node as TrainNode & Partial<KnownOfNode>
    return (value === null || value === '' ? rest : { ...rest, [what]: value }) as TrainNode
  })
  return { ...train, nodes }
}

/** A train whose stages of the firm's own kinds carry what is said of them here; other stages stay as they are. */
export const withKinds = (train: Train, kinds: readonly OwnKind[]): Train => ({
  ...train,
  nodes: train.nodes.map((node) => {
    const own = node.kind === 'stage' ? kinds.find(({ id }) => id === node.media) : undefined
    return own ? { ...node, own } : node
  }),
})

/** Storage behind a tee after this node, kept from pressing back by a check valve. */
export function addTank(train: Train, after: string, ids: { tee: string; tank: string }, volumeL: number): Train {
  const teed = insertAfter(train, after, { id: ids.tee, kind: 'tee' })
  const pipes = teed.pipes.map((pipe) => (pipe.from === after && pipe.to === ids.tee ? { ...pipe, check: true } : pipe))
  return {
    nodes: [...teed.nodes, { id: ids.tank, kind: 'tank', volumeL, valve: true }],
    pipes: [...pipes, { from: ids.tee, to: ids.tank }],
  }
}

/** One more outlet behind the set, at a tee before the last one on the way. */
export function addOutlet(train: Train, ids: { tee: string; outlet: string }, use: Extract<TrainNode, { kind: 'outlet' }>['use']): Train {
  const path = flowPath(train)
  const before = path.at(-2)
  if (!before) return train
  const teed = insertAfter(train, before.id, { id: ids.tee, kind: 'tee' })
  return { nodes: [...teed.nodes, { id: ids.outlet, kind: 'outlet', use }], pipes: [...teed.pipes, { from: ids.tee, to: ids.outlet }] }
}

/** A bypass round these stages, in flow order; null takes the one with this id away. */
export function setBypass(train: Train, id: string, round: { enters: string; leaves: string } | null): Train {
  const nodes = train.nodes.filter((node) => node.id !== id)
  return { ...train, nodes: round === null ? nodes : [...nodes, { id, kind: 'bypass', ...round }] }
}
