import { flowPath, type StageNode, type Train, type TrainNode } from '@evenround/core/train'

export interface Placed {
  node: TrainNode
  column: number
  /** 0 is the line the water takes; 1 stands beside or below it. */
  lane: 0 | 1
}
export interface MapLayout {
  placed: Placed[]
  columns: number
  /** Columns each bypass spans, with its id. */
  bypasses: { id: string; from: number; to: number }[]
  tanks: { id: string; column: number }[]
  /** Stages beside: joined to the line at these columns. */
  beside: { column: number; from: number; to: number }[]
}

/** Where the pipe map draws a train: the way to the tap in a row, what stands side by side or in no pipe below it. */
export function layoutOf(train: Train): MapLayout {
  const path = flowPath(train).filter(({ kind }) => kind !== 'source' && kind !== 'tee')
  const placed: Placed[] = path.map((node, column) => ({ node, column, lane: 0 }))
  const columnOf = new Map(placed.map(({ node, column }) => [node.id, column]))
  const whole = flowPath(train).map(({ id }) => id)
  const at = (id: string): number => columnNear(whole, columnOf, id)
  const beside: MapLayout['beside'] = []
  for (const node of train.nodes) {
    if (node.kind !== 'stage' || columnOf.has(node.id)) continue
    const from = train.pipes.find(({ to }) => to === node.id)?.from
    const to = train.pipes.find((pipe) => pipe.from === node.id)?.to
    const column = from === undefined ? lastStage(path) : twinOf(train, node, from, columnOf)
    placed.push({ node, column, lane: 1 })
    if (from !== undefined && to !== undefined) beside.push({ column, from: column - 0.5, to: column + 0.5 })
  }
  const bypasses = train.nodes.flatMap((node) =>
    node.kind === 'bypass' ? [{ id: node.id, from: at(node.enters) - 0.5, to: at(node.leaves) + 0.5 }] : [],
  )
  const tanks = train.nodes.flatMap((node) => {
    if (node.kind !== 'tank') return []
    const tee = train.pipes.find(({ to }) => to === node.id)?.from
    return [{ id: node.id, column: tee === undefined ? 0 : at(tee) + 0.5 }]
  })
  return { placed, columns: path.length, bypasses, tanks, beside }
}

const lastStage = (path: readonly TrainNode[]): number =>
  Math.max(
    0,
    path.findLastIndex(({ kind }) => kind === 'stage'),
  )

/** The column of a node on the way, or of the last one drawn before it. */
function columnNear(whole: readonly string[], columnOf: ReadonlyMap<string, number>, id: string): number {
  for (let index = whole.indexOf(id); index >= 0; index--) {
    const column = columnOf.get(whole[index] as string)
    if (column !== undefined) return column
  }
  return 0
}

/** Stands where the stage stands that the water of the same tee takes otherwise. */
function twinOf(train: Train, node: StageNode, fork: string, columnOf: ReadonlyMap<string, number>): number {
  const twin = train.pipes.find(({ from, to }) => from === fork && to !== node.id && columnOf.has(to))?.to
  return (twin === undefined ? undefined : columnOf.get(twin)) ?? 0
}
