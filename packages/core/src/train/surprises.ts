import { caution, say } from '../words'
import { stageLabel } from './labels'
import type { SheetStep, Train } from './types'

/** What can turn out otherwise than the sheet expected. */
export const SURPRISES = ['will-not-close', 'keeps-running', 'no-tank-valve', 'old-gasket', 'thread-damaged', 'still-leaking'] as const
export type SurpriseId = (typeof SURPRISES)[number]

export interface Surprise {
  id: SurpriseId
  /** What the technician would say. */
  label: string
  /** Likeliest first. */
  advice: string[]
  /** The bodies it can be about, where it has to be said which one. */
  stages: string[]
}

const LABELS: Record<SurpriseId, string> = {
  get 'will-not-close'() {
    return say`A shut-off will not close`
  },
  get 'keeps-running'() {
    return say`Water kept running`
  },
  get 'no-tank-valve'() {
    return say`The tank has no valve`
  },
  get 'old-gasket'() {
    return say`An old gasket was left inside`
  },
  get 'thread-damaged'() {
    return say`A thread is damaged`
  },
  get 'still-leaking'() {
    return say`A joint dripped`
  },
}
/** What was met, for whoever reads it later. */
export const surpriseWords = (id: SurpriseId): string => LABELS[id]

/** How an answer says which body it is about: `still-leaking:s2`. */
export const surpriseAnswer = (id: SurpriseId, stage?: string): string => (stage === undefined ? id : `${id}:${stage}`)

/** Reads such an answer; null for any other. */
export function surpriseOf(answer: string | undefined): { id: SurpriseId; stage: string | null } | null {
  const id = SURPRISES.find((one) => answer === one || answer?.startsWith(`${one}:`))
  if (!id || answer === undefined) return null
  return { id, stage: answer === id ? null : answer.slice(id.length + 1) }
}

const WILL_NOT_CLOSE = () => [
  say`A screw valve that is stiff: a quarter turn open, then in again, by hand and twice. No wrench on its wheel.`,
  say`A lever valve that turns and stops nothing: its ball is worn. It is not trusted any more.`,
  say`Go further up: the sheet goes on with the next shut-off. Write the bad valve down for the customer.`,
]
const KEEPS_RUNNING = () => [
  say`It still empties: storage and long pipes take some minutes. Wait once more.`,
  say`The valve passes: shut it again, then go further up.`,
  say`Another way in: a second feed, a tank, or a bypass that is not fully turned.`,
]
const NO_TANK_VALVE = () => [
  say`Look under the label and behind the tank: a small lever at its neck.`,
  say`There is none: the tank is run empty, and then it presses on nothing.`,
]
const OLD_GASKET = () => [
  say`Peel it off whole and feel round the groove: there may be a second one below.`,
  say`Look into the bore of the old element and of the new one: packets of grease hide there.`,
  say`Two gaskets on top of each other leak however hard the housing is turned.`,
]
const THREAD = () => [
  say`Dirt in the thread: brush it dry and try again by hand, backwards first until it drops in.`,
  caution`Crossed: never force it. A sound sump or cap on the same head shows which half is bad.`,
  say`Head or sump is worn or cracked: it is renewed. Without a sound one the set stays shut and the customer is told.`,
]
const LEAKING = () => [
  say`Two gaskets on top of each other, or the old one left in the head.`,
  say`The seal is pinched, dry, nicked or out of its groove.`,
  say`Closed askew: off, thread wiped, on again by hand.`,
  say`An inline tube that stops at the collet, or is scored: cut square and pushed past the first stop.`,
  say`A crack in the sump or head: renew it. Turning harder does not close a crack.`,
]

const bodies = (train: Train, step: SheetStep, worked: readonly string[]): string[] => {
  const own = train.nodes.flatMap((node) =>
    node.kind === 'stage' && worked.includes(node.id) && node.housing !== 'dry-slot' ? [node.id] : [],
  )
  return step.verb === 'leak-check' ? own : []
}

/** What may turn out otherwise at this step, with what to do, likeliest first; `worked` are the stages opened today. */
export function surprisesFor(train: Train, step: SheetStep, worked: readonly string[]): Surprise[] {
  const [at = ''] = step.at
  const node = train.nodes.find(({ id }) => id === at)
  const one = (id: SurpriseId, label: string, advice: string[], stages: string[] = []): Surprise => ({ id, label, advice, stages })
  switch (step.verb) {
    case 'close':
      if (node?.kind === 'tank') {
        return [
          one('no-tank-valve', say`There is no valve on the tank`, NO_TANK_VALVE()),
          one('will-not-close', say`It will not close`, WILL_NOT_CLOSE()),
        ]
      }
      return node?.kind === 'valve' || node?.kind === 'stage' ? [one('will-not-close', say`It will not close`, WILL_NOT_CLOSE())] : []
    case 'relieve':
      return [one('keeps-running', say`It keeps running`, KEEPS_RUNNING())]
    case 'inspect':
      return node?.kind === 'stage' && node.housing !== 'dry-slot'
        ? [
            one('old-gasket', say`An old gasket is still in there`, OLD_GASKET()),
            one('thread-damaged', say`The thread of ${stageLabel(node)} is damaged`, THREAD()),
          ]
        : []
    case 'close-housing':
      return node?.kind === 'stage' ? [one('thread-damaged', say`It does not screw on: the thread is damaged`, THREAD())] : []
    case 'leak-check': {
      const stages = bodies(train, step, worked)
      return stages.length > 0 ? [one('still-leaking', say`Something drips`, LEAKING(), stages)] : []
    }
    default:
      return []
  }
}

export const stagesWorked = (steps: readonly SheetStep[]): string[] => [
  ...new Set(steps.flatMap(({ verb, at }) => (verb === 'take-out' ? at : []))),
]
