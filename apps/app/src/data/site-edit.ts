import type { SiteDto, SitePageDto, SiteRowDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { amend } from './answers'
import { keepEdit } from './kept-edits'
import { KEY, queryClient } from './queries'

type Fields = Omit<SiteDto, 'id' | 'version'>
const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)

/** What an edit changes: each field as it was seen and as it is to be; a position goes whole. */
export function changesOf({ id: _, version: __, ...before }: SiteDto, after: Fields): { before: Partial<Fields>; after: Partial<Fields> } {
  const fields = Object.keys(after) as (keyof Fields)[]
  const moved = before.lat !== after.lat || before.lon !== after.lon
  const changed = fields.filter((field) => (field === 'lat' || field === 'lon' ? moved : !same(before[field], after[field])))
  const pick = (from: Fields): Partial<Fields> => Object.fromEntries(changed.map((field) => [field, from[field]]))
  return { before: pick(before), after: pick(after) }
}

/** An edit of a site where there is no network: it stands on this device at once, and the server merges it in when there is one. */
export async function keepSiteEdit(site: SiteDto, typed: Fields): Promise<void> {
  const changes = changesOf(site, typed)
  if (Object.keys(changes.after).length === 0) return
  await keepEdit({ path: `/api/sites/${site.id}/changes`, body: changes, what: say`Changed: ${site.name}` })
  amend<SitePageDto>(queryClient, KEY.site(site.id), (page) => ({ ...page, site: { ...page.site, ...typed } }))
  const { name, village, island, lat, lon } = typed
  amend<{ sites: SiteRowDto[] }>(queryClient, KEY.sites, (all) => ({
    ...all,
    sites: all.sites.map((row) => (row.id === site.id ? { ...row, name, village, island, lat, lon } : row)),
  }))
}
