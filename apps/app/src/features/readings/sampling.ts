import type { Medium } from '@evenround/core/catalogue'

/** How to take the two samples, by what this train has and nothing else. */
export function samplingHint(media: readonly Medium[]): string {
  const permeate = media.includes('membrane')
    ? media.includes('remineraliser')
      ? 'Sample the permeate itself, before the mineral stage. '
      : 'Sample the permeate itself. '
    : ''
  return `${permeate}Let it run a while, rinse the probe, and measure treated water first: the probe carries the last sample over.`
}
