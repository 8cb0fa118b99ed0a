import { profileOf } from '../catalogue/own-kinds'
import { say } from '../words'
import { stageLabel } from './labels'
import type { Plan } from './plan'
import type { SheetStep, StageNode } from './types'
import { closingOf, withoutClosing } from './work'

const capital = (text: string): string => text.replace(/^the /, '').replace(/^(?!pH)./, (first) => first.toUpperCase())

/** The body of a stage by its own name, a housing with what stands in it. */
function bodyOf(stage: StageNode): string {
  const name = stageLabel(stage)
  return capital(name === `housing ${stage.position}` ? `${name}: ${profileOf(stage).name}` : name)
}

const OPENING: readonly SheetStep['verb'][] = ['loosen', 'open-housing', 'disconnect', 'drain', 'take-out', 'inspect', 'wash']

/** The part of the work a step was written for, by the phase its key begins with; null for what is put in wherever it is needed. */
function partOf(plan: Plan, { key, verb }: SheetStep, beforeLastFlush: boolean): string | null {
  const [phase = ''] = key.split('/')
  const closing = closingOf(phase)
  const forBed = closing.startsWith('bed')
  const own = withoutClosing(phase)
  // What came to the work too late for the first closing has one of its own.
  const [, then] = /^then(\d+)-$/.exec(closing) ?? []
  const [, bed] = /^(?:bed|second|visit\d+bed)(\d+)-$/.exec(closing) ?? []
  const again =
    bed !== undefined ? say`, bed ${bed}` : closing === 'more-' ? say` again` : then === undefined ? '' : say`, part ${Number(then) + 1}`
  const begins = (...names: string[]): boolean => names.some((name) => own.startsWith(name))
  if ((own === 'before' && again === '') || verb === 'ask') return say`Prepare`
  if (own === 'isolate' || own === 'run-stop' || own === 'before')
    return forBed && bed === undefined ? say`Shut and relieve for the bed` : say`Shut and relieve${again}`
  if (own === 'bench') return verb === 'connect' ? say`Hang the set back` : say`Shut and relieve`
  if (begins('change-')) {
    const stage = plan.train.nodes.find((node): node is StageNode => node.kind === 'stage' && own === `change-${node.id}`)
    if (!stage) return null
    if (plan.schools.order === 'one-at-a-time' || plan.due.length === 1 || forBed) return bodyOf(stage)
    return OPENING.includes(verb) ? say`Take out` : say`Put in`
  }
  if (begins('soak')) return say`Fill and soak${again}`
  if (begins('run-last', 'run-tank')) return say`Put back${again}`
  if (begins('run')) return say`Trickle and backwash${again}`
  if (begins('flush-')) return say`Flush${again}`
  if (begins('restore')) return `${beforeLastFlush ? say`Flush` : say`Put back`}${again}`
  if (own === 'put-back') return say`Put back`
  return own === 'close-out' ? say`Leave${again}` : null
}

/**
 * Names the block of each step of one visit: what somebody who knows the work ticks at once. Steps of a block stand together: one that is
 * put in on the way (a leak that is mended, a valve that turned out to be the wrong one) belongs to the block it stands in.
 */
export function inBlocks(plan: Plan, steps: readonly SheetStep[]): SheetStep[] {
  const lastFlush = new Map(steps.flatMap(({ verb, key }, index) => (verb === 'flush' ? [[closingOf(key), index] as const] : [])))
  const over = new Set<string>()
  let current = ''
  return steps.map((step, index) => {
    const part = partOf(plan, step, index <= (lastFlush.get(closingOf(step.key)) ?? -1))
    if (part !== null && part !== current && !over.has(part)) {
      if (current !== '') over.add(current)
      current = part
    }
    return { ...step, block: current }
  })
}
