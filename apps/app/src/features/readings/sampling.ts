import type { Medium } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'

/** How to take the two samples, by what this train has and nothing else. */
export function samplingHint(media: readonly Medium[]): string {
  const permeate = media.includes('membrane')
    ? media.includes('remineraliser')
      ? say`Sample the permeate itself, before the mineral stage. `
      : say`Sample the permeate itself. `
    : ''
  return say`${permeate}Let it run a while, rinse the probe, and measure treated water first: the probe carries the last sample over.`
}
