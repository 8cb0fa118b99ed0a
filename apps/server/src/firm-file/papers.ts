import { FACT_KINDS, type FactKind } from '@evenround/core/visit'
import type { EntityManager } from 'typeorm'
import { tableOf } from '../db/entities/facts'

const SITES_AT_ONCE = 100
type Row = Record<string, unknown>

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

/** Ticks and timers of run sheets: thousands of lines that say nothing the visit's end does not say; they stand in the data. */
const TOO_MANY: readonly FactKind[] = ['step-done', 'block-done', 'timer-started']
const GAUGES: readonly (readonly [string, string, string])[] = [
  ['counter_l', 'counter', 'L'],
  ['in_kpa', 'pressure before it', 'kPa'],
  ['out_kpa', 'pressure after it', 'kPa'],
  ['flow_l_min', 'flow', 'L/min'],
  ['chlorine_after_mg_l', 'free chlorine after it', 'mg/L'],
  ['lamp_hours', 'lamp', 'h'],
  ['intensity_percent', 'intensity', '%'],
  ['product_l_min', 'permeate', 'L/min'],
  ['hardness_in_mg_l', 'hardness before it', 'mg/L'],
  ['hardness_out_mg_l', 'hardness after it', 'mg/L'],
  ['salt_kg', 'salt filled in', 'kg'],
]
const JOB_DAYS: Record<string, string> = {
  dose: 'Day of the dose',
  flush: 'Day of the flush',
  sample: 'Day of the sample',
  job: 'Disinfection',
}
const PURPOSES: Record<string, string> = {
  jug: 'of the jug',
  arrival: 'as it arrives',
  contact: 'while it stands',
  flush: 'while it is flushed',
  sample: 'before the sample',
}
const words = (value: unknown): string => String(value).replaceAll('-', ' ')
const bracketed = (value: unknown): string => (value ? ` (${value})` : '')
const note = (value: unknown): string => (value ? ` ${value}` : '')

/** What is said most, as a person would say it; the other kinds list their fields. */
const LINES: Partial<Record<FactKind, (row: Row) => string>> = {
  'visit-begun': () => 'Visit begun',
  'tds-reading': (row) => `TDS ${row.phase} the work, ${row.water}: ${row.tds_mg_l} mg/L`,
  'stage-reading': (row) =>
    `Reading ${row.phase} the work: ${GAUGES.flatMap(([field, name, unit]) => (row[field] === null ? [] : [`${name} ${row[field]} ${unit}`])).join(', ')}`,
  'part-removed': (row) => `Part taken out, ${words(row.found)}${row.dirt_past ? ', dirt had got past it' : ''}`,
  'part-fitted': (row) =>
    `Part fitted at ${row.position}: ${row.part_number}${row.date_known ? '' : ', first seen; nobody knows since when'}${bracketed(row.mark_text)}`,
  'hold-begun': (row) => `Hold: ${row.text}`,
  'hold-lifted': (row) => `Hold lifted: ${row.proof}`,
  'hold-told': (row) =>
    row.how === 'nobody-reached' ? `Of the hold: nobody reached, ${row.whom}` : `Told of the hold, ${words(row.how)}: ${row.whom}`,
  'visit-finished': (row) => `Visit ended, ${words(row.outcome)}.${row.customer_told ? ' The customer was told.' : ''}${note(row.note)}`,
  'fault-noted': (row) => `Fault, ${words(row.what)}.${note(row.text)}`,
  'fault-settled': (row) => `Fault settled, ${row.how}.${note(row.note)}`,
  'chlorine-dosed': (row) => `Chlorine dosed: ${row.amount} ${row.unit}`,
  'step-surprise': (row) => `Found otherwise: ${words(row.surprise)}`,
  'work-changed': (row) => (row.action === null ? `Left for another day.${note(row.why)}` : `Taken in on the day: ${row.action}`),
  'site-mended': (row) => `The site’s page mended, ${row.field}: ${row.value}`,
  'job-planned': () => 'Disinfection planned',
  'sample-taken': (row) =>
    `Sample taken at ${row.place}, bottle ${row.bottle}, for ${row.laboratory}; free chlorine ${row.chlorine_mg_l} mg/L`,
  'job-day-ended': (row) =>
    `${JOB_DAYS[String(row.job_day ?? row.day)] ?? 'Day of the disinfection'} ended, ${words(row.outcome)}.${note(row.note)}`,
  'strip-read': (row) =>
    `Strip at ${words(row.place)}, ${PURPOSES[String(row.purpose)] ?? row.purpose}: ${row.mg_l === null ? 'by smell' : `${row.mg_l} mg/L free chlorine`}`,
  'sample-result': (row) =>
    `Laboratory’s report ${row.report_number} of ${row.day}: total coliforms ${row.total_coliform}, E. coli ${row.e_coli}`,
}
/** Ids and what only the program needs; and the plan of a disinfection, whose figures stand in the data. */
const UNSAID =
  /(^|_)(id|ids)$|^(firm|seq|supersedes|voided|flags|at|arrived_at|device|kind|person|tasks|plan|train_version|engine_version)$/

const ofDay = (zone: string) => new Intl.DateTimeFormat('sv-SE', { timeZone: zone, dateStyle: 'short', timeStyle: 'short' })
const said = (value: unknown): string =>
  typeof value === 'boolean' ? (value ? 'yes' : 'no') : Array.isArray(value) ? value.map(said).join('; ') : String(value)
const isSaid = (value: unknown): boolean =>
  value !== null &&
  value !== '' &&
  typeof value !== 'undefined' &&
  (typeof value !== 'object' || (Array.isArray(value) && value.length > 0))

const listed = (kind: FactKind, row: Row): string => {
  const fields = Object.entries(row)
    .filter(([name, value]) => !UNSAID.test(name) && isSaid(value))
    .map(([name, value]) => `${name.replaceAll('_', ' ')} ${said(value)}`)
  return `${words(kind)}${fields.length > 0 ? `: ${fields.join(', ')}` : ''}`
}

function factLine(kind: FactKind, row: Row): string {
  const back = row.voided === true ? ' [taken back]' : row.supersedes !== null ? ' [corrected]' : ''
  const by = kind === 'visit-begun' && row.person ? `, by ${row.person}` : ''
  return `${LINES[kind]?.(row) ?? listed(kind, row)}${by}${back}`
}

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
  for (const kind of Object.keys(FACT_KINDS) as FactKind[]) {
    if (TOO_MANY.includes(kind)) continue
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
