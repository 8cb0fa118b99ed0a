import { type Medium, profileOf, usualHousing } from '@evenround/core/catalogue'
import {
  addOutlet,
  addTank,
  insertAfter,
  type StageNode,
  stageLabel,
  type Train,
  type TrainNode,
  tapLabel,
  valveLabel,
} from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { v7 as uuidv7 } from 'uuid'

/** A train being drawn, with every step back and forth. */
export interface History {
  past: readonly Train[]
  present: Train
  future: readonly Train[]
}

export const begin = (present: Train): History => ({ past: [], present, future: [] })
/** A change that changes nothing is none. */
export const change = (history: History, next: Train): History =>
  next === history.present ? history : { past: [...history.past, history.present], present: next, future: [] }
export function undo({ past, present, future }: History): History {
  const before = past.at(-1)
  return before ? { past: past.slice(0, -1), present: before, future: [present, ...future] } : { past, present, future }
}
export function redo({ past, present, future }: History): History {
  const [next, ...rest] = future
  return next ? { past: [...past, present], present: next, future: rest } : { past, present, future }
}

/** What can be put into a line. */
export type Addable = Medium | 'valve' | 'tank' | 'pump' | 'heater' | 'outlet' | 'ice'

const freshId = (train: Train, word: string): string => {
  for (let count = 1; ; count++) {
    const id = count === 1 ? word : `${word}-${count}`
    if (!train.nodes.some((node) => node.id === id)) return id
  }
}

/** Puts something after a node; its id, so that it can be opened at once. What is not known is left so: the sheet asks. */
export function add(train: Train, after: string, what: Addable): { train: Train; id: string } {
  switch (what) {
    case 'valve': {
      const id = freshId(train, 'valve')
      return { train: insertAfter(train, after, { id, kind: 'valve', turns: 'quarter' }), id }
    }
    case 'pump':
    case 'heater': {
      const id = freshId(train, what)
      return { train: insertAfter(train, after, { id, kind: what }), id }
    }
    case 'tank': {
      const id = freshId(train, 'tank')
      return { train: addTank(train, after, { tee: freshId(train, 'tank-tee'), tank: id }, 12), id }
    }
    case 'outlet':
    case 'ice': {
      const id = freshId(train, what === 'ice' ? 'ice' : 'outlet')
      return { train: addOutlet(train, { tee: freshId(train, 'outlet-tee'), outlet: id }, what === 'ice' ? 'ice' : 'house'), id }
    }
    default: {
      const id = uuidv7()
      return { train: insertAfter(train, after, { id, kind: 'stage', media: what, housing: usualHousing(what), position: 0 }), id }
    }
  }
}

const cap = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

/** What a row of the list is called. */
export function nodeTitle(train: Train, node: TrainNode): string {
  switch (node.kind) {
    case 'stage':
      return `${node.position} · ${cap(profileOf(node).name)}`
    case 'valve':
      return cap(valveLabel(train, node.id))
    case 'outlet':
      return cap(tapLabel(train, node.id))
    case 'tank':
      return say`Storage tank`
    case 'bypass':
      return say`Bypass`
    case 'source':
      return say`Supply`
    default:
      return cap(node.kind)
  }
}

/** What is known of it, in a line. */
export function nodeNote(node: TrainNode): string {
  switch (node.kind) {
    case 'stage':
      return [cap(stageLabel(node)), node.inletConfirmed ? null : say`inlet not confirmed`, node.monitored ? 'monitored' : null]
        .filter(Boolean)
        .join(' · ')
    case 'valve':
      return node.turns === 'quarter' ? say`lever, a quarter turn` : say`wheel, several turns`
    case 'outlet':
      return node.mustGoOn ? say`must go on` : ''
    case 'tank':
      return say`${node.volumeL} L${node.valve ? '' : say` · no valve`}`
    default:
      return ''
  }
}

/** Rows of the list, in the order of the water: the way to the tap, then what hangs beside it. */
export function rowsOf(train: Train, path: readonly TrainNode[]): TrainNode[] {
  const shown = path.filter(({ kind }) => kind !== 'tee')
  const rest = train.nodes.filter(({ id, kind }) => kind !== 'tee' && kind !== 'drain' && !shown.some((node) => node.id === id))
  return [...shown, ...rest]
}

export const stagesOnly = (rows: readonly TrainNode[]): StageNode[] => rows.filter((node): node is StageNode => node.kind === 'stage')
