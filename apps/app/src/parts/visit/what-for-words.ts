import type { StopDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'

/** What a visit that nothing makes due is for: where nobody knows of any part, a first look. */
export const whatForWords = ({ system }: StopDto): string =>
  system.stages.length > 0 && system.stages.every(({ part }) => part === null)
    ? say`First visit: look at every stage and measure`
    : say`Look and measure`
