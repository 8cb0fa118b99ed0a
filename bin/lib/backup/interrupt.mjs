// A backup that is told to end ends between its steps, tidies up as after any failure, and says nothing is wrong.
import { PlainError } from '../postgres.mjs'

let told = false

/** Whatever runs for this process is in its group and told the same. */
export function heedSignals() {
  for (const signal of ['SIGINT', 'SIGTERM'])
    process.on(signal, () => {
      told = true
    })
}

export const wasInterrupted = () => told

/** Throws once somebody has said so. */
export function endWhereTold() {
  if (told) throw new PlainError('Ended before it was done, because it was told to.')
}
