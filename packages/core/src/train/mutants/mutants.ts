import { chambersOf, endsOf, wayOut } from '../machine/network'
import { inService, isDry, play, shutsItself, stageOf, type TrainState } from '../machine/state'
import type { SheetStep, Train } from '../types'

/** A good sheet's steps with one thing wrong. */
export interface Mutant {
  name: string
  kind: 'dropped' | 'early' | 'swapped' | 'misdirected' | 'thrown-open'
  steps: SheetStep[]
}

/** Steps whose absence hurts somebody or something; words to the customer, tools laid out and a tap run for air are not among them. */
const SAFETY: readonly SheetStep['verb'][] = [
  'close',
  'relieve',
  'catch',
  'turn',
  'power-off',
  'power-on',
  'open-housing',
  'disconnect',
  'take-out',
  'inspect',
  'grease',
  'fit',
  'close-housing',
  'connect',
  'flush',
  'soak',
  'trickle',
  'backwash',
  'open',
  'leak-check',
  'measure',
  'mark',
  'reset',
  'record',
]

/**
 * Every mutant of a visit's steps: each safety step left out, each opening brought to the front, each two fittings swapped between
 * stages, each flush sent elsewhere, each valve thrown open at once.
 */
export function mutantsOf(train: Train, steps: readonly SheetStep[]): Mutant[] {
  const tap = (id: string | undefined): boolean => train.nodes.some((node) => node.id === id && node.kind === 'outlet')
  const without = (index: number): SheetStep[] => steps.filter((_, at) => at !== index)
  const instead = (index: number, patch: Partial<SheetStep>): SheetStep[] =>
    steps.map((step, at) => (at === index ? { ...step, ...patch } : step))
  const mutants: Mutant[] = []
  const fits = steps.flatMap((step, index) => (step.verb === 'fit' && !step.at[0]?.includes('.') ? [index] : []))
  steps.forEach((step, index) => {
    const [at = ''] = step.at
    if (SAFETY.includes(step.verb) && !(step.verb === 'open' && tap(at)))
      mutants.push({ name: `without ${step.key}`, kind: 'dropped', steps: without(index) })
    if (step.verb === 'open-housing' || step.verb === 'disconnect')
      mutants.push({ name: `${step.key} first of all`, kind: 'early', steps: [step, ...without(index)] })
    if (step.verb === 'open' && step.to === 'half')
      mutants.push({ name: `${step.key} thrown open`, kind: 'thrown-open', steps: instead(index, { to: 'full' }) })
    if (step.verb === 'flush' || step.verb === 'trickle') {
      const other = train.nodes.find((node) => node.kind === 'outlet' && node.id !== step.to)
      if (other) mutants.push({ name: `${step.key} into ${other.id}`, kind: 'misdirected', steps: instead(index, { to: other.id }) })
    }
    const next = fits[fits.indexOf(index) + 1]
    // All out at once, the order of fitting is free.
    const apart = next !== undefined && steps.slice(index, next).some(({ verb }) => verb === 'take-out')
    if (fits.includes(index) && next !== undefined && apart) {
      const swapped = [...steps]
      swapped[index] = { ...step, at: (steps[next] as SheetStep).at }
      swapped[next] = { ...(steps[next] as SheetStep), at: step.at }
      mutants.push({ name: `${step.key} swapped with the next`, kind: 'swapped', steps: swapped })
    }
  })
  return mutants
}

const list = (set: Iterable<string>): string => [...set].sort().join()

/** How the train stood at one step, in what could hurt: pressure and catch at an opening, the way of a flush, a seal at a closing. */
function stood(train: Train, state: TrainState, step: SheetStep): string | null {
  const [at = ''] = step.at
  const [id = '', part] = at.split('.')
  const stage = stageOf(train, id)
  const now = stage && state.stages.get(stage.id)
  const pressed = (chambers: readonly string[]): string => list(chambers.filter((one) => state.pressed.has(one)))
  const dark = list([...state.off].filter((one) => train.nodes.some((node) => node.id === one && node.kind !== 'heater')))
  switch (step.verb) {
    case 'loosen':
    case 'open-housing': {
      if (!stage || isDry(stage) || shutsItself(stage)) return null
      const open = list([...state.stages].flatMap(([one, { open: is }]) => (is ? [one] : [])))
      return `${at} ${pressed(chambersOf(train, stage.id))} ${list(state.catching)} ${dark} ${list(state.still)} ${open} ${state.drained.has(at)} ${now?.asked}`
    }
    case 'disconnect': {
      const under = pressed(step.at.flatMap((line) => endsOf(train, line, state.bypassed)))
      return under === '' && state.catching.size > 0 ? null : `off ${under} ${list(state.catching)}`
    }
    case 'connect': {
      const under = pressed(step.at.flatMap((line) => endsOf(train, line, state.bypassed)))
      return under === '' ? null : `on ${under}`
    }
    case 'flush':
    case 'trickle':
    case 'backwash': {
      const ways = step.at.map((one) => wayOut(train, state, one, step.to ?? '')?.join() ?? 'none')
      const beside = train.pipes.filter(
        ({ from, to }) => isTank(train, to) && !state.shut.has(to) && ways.some((way) => way.split(',').includes(from)),
      )
      return `${list(step.at)} ${ways.join('|')} ${beside.map(({ to }) => to).join()}`
    }
    case 'soak':
      return `${at} ${list(state.bypassed)} ${chambersOf(train, at).some((one) => state.fed.has(one))}`
    case 'take-out':
    case 'fit':
      if (part !== undefined || !stage) return null
      return `${at} ${now?.element} ${now?.inspected} ${now?.washed} ${isDry(stage) || shutsItself(stage) ? '' : now?.open} ${now?.asked} ${dark}`
    case 'close-housing':
      return `${at} sealed ${now?.sealed}`
    case 'open':
      return step.to === 'full' && !state.half.has(at)
        ? `${at} at once`
        : step.to === 'full' && state.half.get(at) === false
          ? `${at} unseen`
          : null
    default:
      return null
  }
}
const isTank = (train: Train, id: string): boolean => train.nodes.some((node) => node.id === id && node.kind === 'tank')

/**
 * What a sheet does to a train, as far as it could hurt anybody or anything. Two sheets with one trace are no better and no worse than one
 * another: a mutant with the trace of its sheet is not wrong. Says nothing of rules; those are the checker's.
 */
export function traceOf(train: Train, steps: readonly SheetStep[]): string {
  const state = inService(train)
  const trace: string[] = []
  for (const step of steps) {
    const line = stood(train, state, step)
    if (line !== null) trace.push(`${step.verb} ${line}`)
    play(train, state, step)
    // A valve open at once, water at an open body: what the step itself brings about.
    trace.push(
      ...[...state.stages].flatMap(([id, one]) =>
        one.open && chambersOf(train, id).some((chamber) => state.fed.has(chamber)) ? [`wet ${id}`] : [],
      ),
    )
  }
  const ends = [
    state.shut,
    state.half.keys(),
    state.taps,
    state.bypassed,
    state.still,
    [...state.off].filter((id) => stageOf(train, id) !== undefined || train.nodes.some((node) => node.id === id)),
    state.apart,
    state.cocks,
  ].map(list)
  const stages = [...state.stages].map(([id, { open, element, takenOut, fitted }]) => `${id} ${open} ${element} ${takenOut} ${fitted}`)
  return [...new Set(trace), ...ends, ...stages, `look ${state.leakWanted}`].join('\n')
}
