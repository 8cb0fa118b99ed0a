import type { RuleId } from '../check'
import type { SheetStep, Train } from '../types'

/** Makes one harm at a step of a good sheet; null where the sheet has not what it takes. */
export type Make = (train: Train, steps: readonly SheetStep[], index: number) => SheetStep[] | null
export type HarmRow = readonly [RuleId, string, Make]

export const without = (steps: readonly SheetStep[], gone: (step: SheetStep, index: number) => boolean): SheetStep[] =>
  steps.filter((step, index) => !gone(step, index))
export const instead = (steps: readonly SheetStep[], index: number, patch: Partial<SheetStep>): SheetStep[] =>
  steps.map((step, at) => (at === index ? { ...step, ...patch } : step))
/** The step at `from` put in front of the one at `to`. */
export function moved(steps: readonly SheetStep[], from: number, to: number): SheetStep[] {
  const rest = without(steps, (_, index) => index === from)
  rest.splice(to, 0, steps[from] as SheetStep)
  return rest
}
export const kindOf = (train: Train, id: string | undefined): string | undefined => train.nodes.find((node) => node.id === id)?.kind
