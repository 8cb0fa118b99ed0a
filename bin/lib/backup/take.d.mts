import type { Place } from './place.mjs'
export function takeBackup(
  place: Place,
  options: { full?: boolean; check?: boolean; secret?: string | null; now?: () => number },
): Promise<{ kind: 'full' | 'incremental'; firms: number | null; label: string }>
