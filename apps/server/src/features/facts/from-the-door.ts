import type { FaultDto, MendedDto } from '@evenround/contract/site'
import type { FactOf } from '@evenround/core/visit'
import type { FirmScope } from '../../db/scope'
import { databasePhotos } from '../photo/store'
import { counting } from '../records/counting'

/** Puts what was mended at the door into the site's own page. */
export async function mendSite(scope: FirmScope, { siteId, field, value }: FactOf<'site-mended'>): Promise<void> {
  const column = { access: 'access', contact: 'contact', phone: 'phone' }[field]
  await scope.query(`update site set ${column} = $3, version = version + 1 where firm_id = $1 and id = $2`, [siteId, value])
}

interface FaultRow {
  fault_id: string
  system_id: string
  stage_id: string | null
  what: FaultDto['what']
  text: string
  at: Date
  name: string
  how: 'done' | 'declined' | null
  note: string | null
  settled_at: Date | null
}

/** Faults noted at a site for later, open ones first; each is work to offer. */
export async function faultsOf(scope: FirmScope, siteId: string): Promise<FaultDto[]> {
  const rows = await scope.query<FaultRow>(
    `select f.fault_id, f.system_id, f.stage_id, f.what, f.text, f.at, p.name, s.how, s.note, s.at as settled_at from fact_fault_noted f
     join person p on p.firm_id = f.firm_id and p.id = f.person_id
     left join lateral (select d.how, d.note, d.at from fact_fault_settled d where d.firm_id = $1 and d.fault_id = f.fault_id and not d.voided
       and not exists (select 1 from fact_fault_settled l where l.firm_id = $1 and l.supersedes = d.id) order by d.at desc limit 1) s on true
     where f.firm_id = $1 and f.site_id = $2 and ${counting('fact_fault_noted')} order by (s.how is not null), f.at desc limit 100`,
    [siteId],
  )
  const photos = databasePhotos(scope)
  return Promise.all(
    rows.map(async (row) => ({
      id: row.fault_id,
      systemId: row.system_id,
      stageId: row.stage_id,
      what: row.what,
      text: row.text,
      notedAt: row.at.toISOString(),
      byName: row.name,
      settled:
        row.how === null || row.settled_at === null ? null : { how: row.how, note: row.note ?? '', at: row.settled_at.toISOString() },
      photos: await photos.ofVisit(row.fault_id),
    })),
  )
}

/** Who mended what of a site's page at the door, the latest of each. */
export async function mendedOf(scope: FirmScope, siteId: string): Promise<MendedDto[]> {
  const rows = await scope.query<{ field: MendedDto['field']; at: Date; name: string }>(
    `select distinct on (f.field) f.field, f.at, p.name from fact_site_mended f join person p on p.firm_id = f.firm_id and p.id = f.person_id
     where f.firm_id = $1 and f.site_id = $2 and ${counting('fact_site_mended')} order by f.field, f.at desc`,
    [siteId],
  )
  return rows.map(({ field, at, name }) => ({ field, at: at.toISOString(), byName: name }))
}

/** Sites with faults that nobody has offered or settled, most first. */
export const openFaults = (scope: FirmScope): Promise<{ siteId: string; siteName: string; faults: number }[]> =>
  scope.query(
    `select f.site_id as "siteId", site.name as "siteName", count(*)::int as faults from fact_fault_noted f
     join site on site.firm_id = f.firm_id and site.id = f.site_id and site.gone_at is null
     where f.firm_id = $1 and ${counting('fact_fault_noted')} and not exists (select 1 from fact_fault_settled d where d.firm_id = $1
       and d.fault_id = f.fault_id and not d.voided and not exists (select 1 from fact_fault_settled l where l.firm_id = $1 and l.supersedes = d.id))
     group by 1, 2 order by 3 desc, 2 limit 50`,
  )
