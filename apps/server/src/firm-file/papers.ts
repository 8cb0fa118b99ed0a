import type { FactKind } from '@evenround/core/visit'
import type { EntityManager } from 'typeorm'
import { tableOf } from '../db/entities/facts'
import { factLine, type Row, TOLD_KINDS } from './past-lines'

const SITES_AT_ONCE = 100

interface SiteRow {
  id: string
  name: string
  street: string
  postcode: string
  village: string
  island: string
  country: string
  contact: string
  phone: string
  email: string
  access: string
  systems: string[] | null
  zone: string
}

const ofDay = (zone: string) => new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' })
function head(site: SiteRow): string[] {
  const line = (name: string, ...values: string[]): string[] => {
    const all = values.filter((value) => value !== '')
    return all.length > 0 ? [`${name}: ${all.join(', ')}`] : []
  }
  return [
    site.name,
    '='.repeat(site.name.length),
    ...line('Address', site.street, [site.postcode, site.village].filter(Boolean).join(' '), site.island, site.country),
    ...line('Contact', site.contact, site.phone, site.email),
    ...line('Access', site.access),
    ...line('Systems', ...(site.systems ?? [])),
    '',
  ]
}

/** A fact of a site as a line of its past. */
export interface PastLine {
  id: string
  siteId: string
  visitId: string
  kind: FactKind
  at: string
  text: string
  /** Taken back or corrected since. */
  over: boolean
}

/** What happened at these sites, in order of time, a line each; ticks and timers of run sheets are left out. At most so many of a kind, the latest. */
export async function pastOf(manager: EntityManager, ids: readonly string[], most = 1_000_000): Promise<PastLine[]> {
  const lines: PastLine[] = []
  for (const kind of TOLD_KINDS) {
    const table = tableOf(kind)
    const facts: { row: Row; over: boolean }[] = await manager.query(
      `select row_to_json(f)::jsonb || jsonb_build_object('person', p.name) as row,
         f.voided or exists (select 1 from ${table} l where l.firm_id = f.firm_id and l.supersedes = f.id) as over
       from ${table} f left join person p on p.firm_id = f.firm_id and p.id = f.person_id
       where f.firm_id = current_setting('app.firm_id')::uuid and f.site_id = any($1) order by f.at desc, f.seq desc limit $2`,
      [ids, most],
    )
    for (const { row, over } of facts)
      lines.push({
        id: String(row.id),
        siteId: String(row.site_id),
        visitId: String(row.visit_id),
        kind,
        at: String(row.at),
        text: factLine(kind, row),
        over,
      })
  }
  return lines.sort((a, b) => Date.parse(a.at) - Date.parse(b.at))
}

async function recordsOf(manager: EntityManager, ids: readonly string[]): Promise<{ id: string; name: string; text: string }[]> {
  const sites: SiteRow[] = await manager.query(
    `select s.id, s.name, s.street, s.postcode, s.village, s.island, s.country, s.contact, s.phone, s.email, s.access, f.time_zone as zone,
       (select array_agg(y.name order by y.name) from system y where y.firm_id = s.firm_id and y.site_id = s.id) as systems
     from site s join firm f on f.firm_id = s.firm_id where s.firm_id = current_setting('app.firm_id')::uuid and s.id = any($1) order by s.name, s.id`,
    [ids],
  )
  const lines = new Map<string, string[]>(sites.map(({ id }) => [id, []]))
  const times = new Map(sites.map(({ id, zone }) => [id, ofDay(zone)]))
  for (const { siteId, at, text } of await pastOf(manager, ids)) {
    const time = times.get(siteId)
    if (time) lines.get(siteId)?.push(`${time.format(new Date(at))}  ${text}`)
  }
  return sites.map((site) => ({ id: site.id, name: site.name, text: `${[...head(site), ...(lines.get(site.id) ?? [])].join('\n')}\n` }))
}

/** A name a file can have anywhere; the first of the id keeps two of one name apart. */
const fileName = (name: string, id: string): string =>
  `${
    name
      .normalize('NFC')
      .replace(/[^\p{L}\p{N} '-]/gu, '')
      .trim()
      .slice(0, 60) || 'site'
  } ${id.slice(-6)}.txt`

/** The past of these sites in words, a paper each, in order of time. */
export async function* sitePapers(manager: EntityManager, ids: readonly string[]): AsyncGenerator<{ name: string; text: string }> {
  for (let at = 0; at < ids.length; at += SITES_AT_ONCE) {
    for (const { id, name, text } of await recordsOf(manager, ids.slice(at, at + SITES_AT_ONCE))) yield { name: fileName(name, id), text }
  }
}

/** The past of every site of the firm. */
export async function* papersOfFirm(manager: EntityManager): AsyncGenerator<{ name: string; text: string }> {
  const sites: { id: string }[] = await manager.query(
    `select id from site where firm_id = current_setting('app.firm_id')::uuid order by name, id`,
  )
  yield* sitePapers(
    manager,
    sites.map(({ id }) => id),
  )
}
