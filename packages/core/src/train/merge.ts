import type { Train, TrainNode } from './types'

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
type Fields = Record<string, unknown>

/** Fields that say where a thing stands and what it is; the rest is what is known of it. */
const BUILT = new Set(['id', 'kind', 'position', 'media', 'housing', 'own', 'enters', 'leaves'])
const pick = (node: TrainNode | undefined, built: boolean): Fields =>
  Object.fromEntries(Object.entries(node ?? {}).filter(([field]) => BUILT.has(field) === built))
const knownOf = (node: TrainNode | undefined): Fields => pick(node, false)

/** What says how a train is put together, apart from what is known of each thing in it. */
function builtLike({ nodes, pipes }: Train): string {
  const things = nodes.map((node) => JSON.stringify(Object.entries(pick(node, true)).sort())).sort()
  const ways = pipes.map((pipe) => JSON.stringify(Object.entries(pipe).sort())).sort()
  return JSON.stringify([things, ways])
}

export interface MergedTrain {
  train: Train
  /** Things of the train that both changed, by id: theirs stands. */
  theirs: string[]
  /** Both put it together otherwise: theirs stands. */
  built: boolean
}

/**
 * A train that two people changed from the same state. What one of them alone changed stands as they have it; where both changed the same,
 * theirs stands, who came first, and is named. How it is put together (what is there, in which order, the pipes) is one thing and goes
 * whole; what is known of each thing goes field by field.
 */
export function mergeTrains(before: Train, theirs: Train, mine: Train): MergedTrain {
  const [was, stands, wanted] = [before, theirs, mine].map(builtLike)
  const byId = (train: Train) => new Map(train.nodes.map((node) => [node.id, node]))
  const [old, there, here] = [byId(before), byId(theirs), byId(mine)]
  // What I took out and they said something new about is still looked at by them.
  const takenOut = theirs.nodes.some(({ id }) => old.has(id) && !here.has(id) && !same(knownOf(there.get(id)), knownOf(old.get(id))))
  const built = wanted !== was && wanted !== stands && (stands !== was || takenOut)
  const frame = wanted !== was && !built ? mine : theirs
  const named = new Set<string>()
  const nodes = frame.nodes.map((node): TrainNode => {
    if (!there.has(node.id) || !here.has(node.id)) return node
    const [from, they, me] = [old, there, here].map((all) => knownOf(all.get(node.id))) as [Fields, Fields, Fields]
    const merged: TrainNode = { ...node }
    for (const field of new Set([...Object.keys(they), ...Object.keys(me), ...Object.keys(from)])) {
      const theyChanged = !same(they[field], from[field])
      const iChanged = !same(me[field], from[field])
      if (theyChanged && iChanged && !same(they[field], me[field])) named.add(node.id)
      const value = iChanged && !theyChanged ? me[field] : they[field]
      if (value === undefined) Reflect.deleteProperty(merged, field)
      else Reflect.set(merged, field, value)
    }
    return merged
  })
  return { train: { nodes, pipes: frame.pipes }, theirs: [...named].sort(), built }
}
