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
 * Nodes the water passes from the source to the first outlet, in service direction.
 * Storage and drains hang off this path and are not on it. Empty when no outlet can be reached.
 */
export function flowPath(train: Train): TrainNode[] {
  const source = train.nodes.find((node) => node.kind === 'source')
  if (!source) return []
  const walk = (node: TrainNode, seen: ReadonlySet<string>): TrainNode[] | null => {
    if (node.kind === 'outlet') return [node]
    if (node.kind === 'drain' || node.kind === 'tank') return null
    for (const pipe of train.pipes) {
      if (pipe.from !== node.id || seen.has(pipe.to)) continue
      const rest = walk(nodeById(train, pipe.to), new Set(seen).add(pipe.to))
      if (rest) return [node, ...rest]
    }
    return null
  }
  return walk(source, new Set([source.id])) ?? []
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
