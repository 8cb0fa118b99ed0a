import { say } from '@evenround/core/words'

/** "Untreated, before the work". */
export const withPhase = (what: string, phase: 'before' | 'after'): string =>
  phase === 'before' ? say`${what}, before the work` : say`${what}, after the work`
