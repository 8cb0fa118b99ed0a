import type { SitePageDto, SiteRowDto } from '@evenround/contract/site'
import { strictestHold } from '@evenround/core/visit'
import { IsNull } from 'typeorm'
import { Site } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { holdsOn, visitRows } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import { siteDto } from '../features/site/routes'
import { notFound } from '../http/errors'
import { dayIn } from '../time/zone'
import { systemsOf } from './systems'

interface SiteSummary {
  site_id: string
  systems: number
  next: string | null
}

/** Systems of each site, and the first median end among what sits in them, from the stored forecasts. */
const summaries = (scope: FirmScope): Promise<SiteSummary[]> =>
  scope.query(
    `select y.site_id, count(distinct y.id)::int as systems, min(f.p50)::text as next from system y
     left join stage_forecast f on f.firm_id = y.firm_id and f.system_id = y.id
     where y.firm_id = $1 and y.gone_at is null group by y.site_id`,
  )

/** All sites by name, each with its next due day and the strictest hold that is on. */
export async function sitesPage(scope: FirmScope, now: Date): Promise<SiteRowDto[]> {
  const firm = await loadFirm(scope)
  const today = dayIn(firm.timeZone, now)
  const sites = await scope.find(Site, { goneAt: IsNull() }, { name: 'ASC' })
  const bySite = new Map((await summaries(scope)).map((row) => [row.site_id, row]))
  const holds = await holdsOn(
    scope,
    sites.map(({ id }) => id),
    now,
  )
  return sites.map(({ id, name, village, island }) => {
    const own = bySite.get(id)
    const hold = strictestHold(holds.get(id) ?? [], now.toISOString())
    const next = own?.next ?? null
    // What should be done by now and is not: the next day for it is today.
    const nextDue = next !== null && next < today ? today : next
    return { id, name, village, island, systems: own?.systems ?? 0, nextDue, hold: hold?.holdKind ?? null }
  })
}

export async function sitePage(scope: FirmScope, id: string, now: Date): Promise<SitePageDto> {
  const firm = await loadFirm(scope)
  const site = await scope.findOne(Site, { id, goneAt: IsNull() })
  if (!site) throw notFound('site')
  const systems = await systemsOf(scope, [site], dayIn(firm.timeZone, now))
  const holds = await holdsOn(scope, [id], now)
  return { site: siteDto(site), systems, holds: holds.get(id) ?? [], visits: await visitRows(scope, { siteId: id }) }
}
