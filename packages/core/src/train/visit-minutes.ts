import { minutesOf, type SheetMinutes } from './minutes'
import { sheet } from './sheet'
import type { SheetSchools, Task, Train } from './types'

/**
 * What a visit with this work takes by its run sheet: minutes of hands, and apart from them what runs by itself; of the first visit where
 * there are two. Null where no sheet can be written: the caller falls back on what is usual for the tasks.
 */
export function visitMinutes(train: Train, tasks: readonly Task[], schools: SheetSchools): SheetMinutes | null {
  const made = sheet({ train, tasks, schools })
  const [first] = made.ok ? made.visits : []
  return first ? minutesOf(first.steps) : null
}

/** Two trains drawn alike, with the same work, take the same: what tells them apart, without the names of their nodes. */
export function shapeKey({ nodes, pipes }: Train, tasks: readonly Task[], schools: SheetSchools): string {
  const place = new Map(nodes.map(({ id }, index) => [id, index]))
  const at = (id: string): number => place.get(id) ?? -1
  return JSON.stringify([
    nodes.map(({ id: _, ...node }) => ('enters' in node ? { ...node, enters: at(node.enters), leaves: at(node.leaves) } : node)),
    pipes.map(({ from, to, ...pipe }) => [at(from), at(to), pipe]),
    tasks.map(({ stage, action }) => [at(stage), action]),
    schools,
  ])
}
