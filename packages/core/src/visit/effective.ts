import type { FactBase } from './types'

/**
 * The facts that count: those nobody superseded, without the voided ones.
 * Where two facts correct the same one, both stand and its id is in `conflicts`, for a person to settle.
 * Order is kept.
 */
export function effectiveFacts<T extends Pick<FactBase, 'id' | 'supersedes' | 'voided'>>(
  facts: readonly T[],
): { facts: T[]; conflicts: string[] } {
  const correctedBy = new Map<string, number>()
  for (const { supersedes } of facts) {
    if (supersedes !== null) correctedBy.set(supersedes, (correctedBy.get(supersedes) ?? 0) + 1)
  }
  const conflicts = [...correctedBy].filter(([, count]) => count > 1).map(([id]) => id)
  return { facts: facts.filter(({ id, voided }) => !voided && !correctedBy.has(id)), conflicts }
}
