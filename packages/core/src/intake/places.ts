import { usualHousing } from '../catalogue'
import { FAMILIES } from '../train'
import { say } from '../words'
import { plainWords } from './fields'
import type { ReadRow } from './rows'
import type { DraftSystem, KnownSite, PlannedSite } from './types'

/** The reference household, where a list does not say. */
const USUAL_PEOPLE = 3

export const pushed = <K, V>(map: Map<K, V[]>, key: K, value: V): void => {
  const list = map.get(key)
  if (list) list.push(value)
  else map.set(key, [value])
}
const grouped = <V>(values: readonly V[], key: (value: V) => string): Map<string, V[]> => {
  const groups = new Map<string, V[]>()
  for (const value of values) pushed(groups, key(value), value)
  return groups
}
const byName = (one: { name: string }): string => plainWords(one.name)

/** Which site a line means: by name and village, by name alone where only one has it. */
export function siteFinder(known: readonly KnownSite[]) {
  const sites: PlannedSite[] = []
  const drafts = new Map<string, PlannedSite[]>()
  const knownByName = grouped(known, byName)
  const sameVillage = (village: string) => (one: { village: string }) => plainWords(one.village) === plainWords(village)
  return {
    sites,
    find(row: ReadRow): PlannedSite {
      const name = plainWords(row.site)
      const drafted = drafts.get(name) ?? []
      const draft = row.village === '' ? drafted[0] : drafted.find(sameVillage(row.village))
      if (draft) {
        keepFirst(draft, row)
        return draft
      }
      const there = knownByName.get(name) ?? []
      const match = row.village === '' ? (there.length === 1 ? there[0] : undefined) : there.find(sameVillage(row.village))
      const site: PlannedSite = {
        key: `site ${sites.length + 1}`,
        id: match?.id ?? null,
        name: match?.name ?? row.site,
        street: row.street,
        postcode: row.postcode,
        village: match?.village ?? row.village,
        island: row.island,
        country: row.country,
        lat: row.at?.lat ?? null,
        lon: row.at?.lon ?? null,
        kind: row.kind ?? 'home',
        contact: row.contact,
        phone: row.phone,
        email: row.email,
        access: row.access,
        people: row.people ?? USUAL_PEOPLE,
        source: row.source ?? 'municipal',
        chlorineMgL: row.chlorineMgL,
      }
      if (match) row.notes.push(say`The site is there already; what stands of it is kept`)
      sites.push(site)
      pushed(drafts, name, site)
      return site
    },
  }
}

/** Two lines of one site that differ: the first is kept, and the second says so. */
function keepFirst(site: PlannedSite, row: ReadRow): void {
  const differs = (value: unknown, own: unknown): boolean => value !== null && value !== '' && value !== own
  if (site.id !== null) return
  const fields = [
    ['people', row.people, site.people],
    ['source', row.source, site.source],
    ['telephone', row.phone, site.phone],
  ] as const
  for (const [name, value, own] of fields)
    if (differs(value, own)) row.notes.push(say`An earlier line gives other ${name}; the first is kept`)
}

/** Which of its site's systems a line means; the only one where it names none. */
export function systemOf(row: ReadRow, site: PlannedSite, known: KnownSite | null, drafts: Map<string, DraftSystem[]>): DraftSystem {
  const own = drafts.get(site.key) ?? []
  const called = (one: { name: string }): boolean => plainWords(one.name) === plainWords(row.system)
  const draft = row.system === '' ? own[0] : own.find(called)
  if (draft) return draft
  const there = row.system === '' ? (known?.systems.length === 1 ? known.systems[0] : undefined) : known?.systems.find(called)
  const system: DraftSystem = {
    key: `${site.key} system ${own.length + 1}`,
    siteKey: site.key,
    id: there?.id ?? null,
    name: there?.name ?? (row.system || (row.family ? FAMILIES[row.family].name : say`Water treatment`)),
    family: null,
    stages: there?.stages.map(({ id, position, media }) => ({ id, position, media, housing: usualHousing(media) })) ?? [],
    rows: [],
    known: there ?? null,
  }
  pushed(drafts, site.key, system)
  return system
}
