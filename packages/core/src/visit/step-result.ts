import { say } from '../words'
import type { StepResult } from './types'

/** Done as the sheet says; `note` for what was said with it. */
export const done = (note: string | null = null): StepResult => ({ outcome: 'done', choice: null, note })
/** A question with the option that was chosen. */
export const chose = (choice: string): StepResult => ({ outcome: 'answered', choice, note: null })
/** Not done, and why. */
export const leftOut = (why: string): StepResult => ({ outcome: 'left-out', choice: null, note: why })
/** Ended before its clock ran out; `left` in words. */
export const early = (left: string): StepResult => ({ outcome: 'early', choice: null, note: left })

/** How it reads in the record; null where there is nothing to say. */
export function resultWords({ outcome, choice, note }: StepResult): string | null {
  if (outcome === 'answered') return choice
  if (outcome === 'left-out') return say`left out: ${note ?? ''}`
  return outcome === 'early' ? say`stopped with ${note ?? ''} left` : note
}
