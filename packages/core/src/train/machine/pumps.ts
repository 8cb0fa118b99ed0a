import type { Train } from '../types'
import { edgesOf, inOf, type Joints, outOf, pressedBy, sources } from './network'

const running = (train: Train, { still }: Joints): string[] =>
  train.nodes.flatMap(({ id, kind }) => (kind === 'pump' && !still.has(id) ? [id] : []))

/** Pumps that run with nothing coming to their inlet; `emptied` are tanks with nothing in them. */
export function starvedPumps(train: Train, joints: Joints, emptied: ReadonlySet<string>): string[] {
  return running(train, joints).filter((id) => {
    const without = edgesOf(train, { ...joints, still: new Set([...joints.still, id]) })
    return !pressedBy(without, sources(train, emptied)).has(inOf(train, id))
  })
}

/** Pumps that run with no tap, tank, drain or open end behind them. */
export function pumpsAgainst(train: Train, joints: Joints): string[] {
  const edges = edgesOf(train, joints).map((edge) => ({ ...edge, oneWay: true }))
  return running(train, joints).filter((id) => {
    const reached = pressedBy(edges, [outOf(train, id)])
    const open = [...joints.apart].some((line) => reached.has(outOf(train, line.split('>')[0] as string)))
    const end = train.nodes.some(({ id: at, kind }) => ['outlet', 'tank', 'drain'].includes(kind) && reached.has(inOf(train, at)))
    return !open && !end
  })
}
