import type { StageNode, Train, TrainNode } from './types'

/** The node with this id. Throws `RangeError` when the train has none. */
export function nodeById(train: Train, id: string): TrainNode {
  const node = train.nodes.find((candidate) => candidate.id === id)
  if (!node) throw new RangeError(`train has no node ${id}`)
  return node
}

/** All stages by position. Those in no pipe (an air filter) come where their position says. */
export function stagesInFlow(train: Train): StageNode[] {
  const stages = train.nodes.filter((node): node is StageNode => node.kind === 'stage')
  return stages.sort((a, b) => a.position - b.position)
}

/**
 * Nodes the water passes from the source to an outlet, in service direction: the way with the most stages on it, the first of several.
 * Storage and drains hang off this path and are not on it. Empty when no outlet can be reached.
 */
export function flowPath(train: Train): TrainNode[] {
  const source = train.nodes.find((node) => node.kind === 'source')
  if (!source) return []
  const ways = (node: TrainNode, seen: ReadonlySet<string>): TrainNode[][] => {
    if (node.kind === 'outlet') return [[node]]
    if (node.kind === 'drain' || node.kind === 'tank') return []
    const next = train.pipes.filter(({ from, to }) => from === node.id && !seen.has(to))
    return next.flatMap(({ to }) => ways(nodeById(train, to), new Set(seen).add(to)).map((rest) => [node, ...rest]))
  }
  const stages = (way: readonly TrainNode[]): number => way.filter(({ kind }) => kind === 'stage').length
  return ways(source, new Set([source.id])).reduce<TrainNode[]>(
    (best, way) => (best.length === 0 || stages(way) > stages(best) ? way : best),
    [],
  )
}

/** Whether the water of one node comes to another in service. */
export function comesTo(train: Train, from: string, to: string): boolean {
  const seen = new Set([from])
  const waiting = [from]
  for (let at = waiting.pop(); at !== undefined; at = waiting.pop()) {
    if (at === to) return true
    for (const pipe of train.pipes) {
      if (pipe.from !== at || seen.has(pipe.to)) continue
      seen.add(pipe.to)
      waiting.push(pipe.to)
    }
  }
  return false
}

/** Whether a bypass goes round a node: it lies on the way from where the bypass enters to where it leaves. */
export const goesRound = (train: Train, { enters, leaves }: { enters: string; leaves: string }, id: string): boolean =>
  comesTo(train, enters, id) && comesTo(train, id, leaves)

const isReactor = (node: TrainNode): node is StageNode => node.kind === 'stage' && node.housing === 'uv-reactor'

/** Lamp and sleeves that sit in one reactor with this one: those of the same word, or neighbours in series where no word is said. */
export function reactorOf(train: Train, id: string): StageNode[] {
  const all = train.nodes.filter(isReactor)
  const own = all.find((node) => node.id === id)
  if (!own) return []
  if (own.reactor !== undefined) return all.filter(({ reactor }) => reactor === own.reactor)
  const found = new Set([id])
  const unnamed = all.filter(({ reactor }) => reactor === undefined)
  for (const known of found)
    for (const { from, to } of train.pipes) {
      const next = from === known ? to : to === known ? from : null
      if (next !== null && unnamed.some((node) => node.id === next)) found.add(next)
    }
  return unnamed.filter((node) => found.has(node.id))
}

/** Whether what runs out here has gone through a heater: it scalds. */
export const isHot = (train: Train, outlet: string): boolean =>
  train.nodes.some((node) => node.kind === 'heater' && comesTo(train, node.id, outlet))
