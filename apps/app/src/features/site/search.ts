import type { SiteRowDto } from '@evenround/contract/site'

/** Letters as people type them without accents or apostrophes. */
const plain = (text: string): string =>
  text
    .normalize('NFD')
    .replace(/[\u0300-\u036f'’]/g, '')
    .toLowerCase()

/** Sites in which every typed word begins some word of the name, village or island. */
export function searchSites(sites: readonly SiteRowDto[], typed: string): SiteRowDto[] {
  const wanted = plain(typed).split(/\s+/).filter(Boolean)
  if (wanted.length === 0) return [...sites]
  return sites.filter(({ name, village, island }) => {
    const words = plain(`${name} ${village} ${island}`).split(/[\s,.-]+/)
    return wanted.every((part) => words.some((word) => word.startsWith(part)))
  })
}
