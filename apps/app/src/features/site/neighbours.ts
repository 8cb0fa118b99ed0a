import type { SiteRowDto } from '@evenround/contract/site'
import { kmBetween, type Position } from '@evenround/core/units'

/** Doors that are closer than this may be one. */
const SAME_DOOR_KM = 0.06
const MOST_SHOWN = 3

const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()

export interface Neighbour {
  row: SiteRowDto
  why: 'same-name' | 'same-door'
  km: number | null
}

/** Sites that may be the one that is being typed: called the same, or at the same door; the nearest first. */
export function neighboursOf(rows: readonly SiteRowDto[], name: string, at: Position | null): Neighbour[] {
  const typed = plain(name)
  return rows
    .flatMap((row): Neighbour[] => {
      const km = at && typeof row.lat === 'number' && typeof row.lon === 'number' ? kmBetween(at, { lat: row.lat, lon: row.lon }) : null
      if (typed !== '' && plain(row.name) === typed) return [{ row, why: 'same-name', km }]
      return km !== null && km <= SAME_DOOR_KM ? [{ row, why: 'same-door', km }] : []
    })
    .sort((a, b) => (a.km ?? 1) - (b.km ?? 1))
    .slice(0, MOST_SHOWN)
}
