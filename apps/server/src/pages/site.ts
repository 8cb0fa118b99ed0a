import type { SitePageDto, SiteRowDto } from '@evenround/contract/site'
import { strictestHold } from '@evenround/core/visit'
import { IsNull } from 'typeorm'
import { Site } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { faultsOf, mendedOf } from '../features/facts/from-the-door'
import { holdsOn, visitRows } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import { databasePhotos } from '../features/photo/store'
import { siteDto } from '../features/site/routes'
import { sameCustomer } from '../features/site/same-customer'
import { notFound } from '../http/errors'
import { dayIn } from '../time/zone'
import { historiesOf, systemsOf } from './systems'

interface SiteSummary {
  site_id: string
  systems: number
  next: string | null
  spent: number
  overdue: number
}

/** Systems of each site, the first day to change among what sits in them, and how much is past it, from the stored forecasts. */
const summaries = (scope: FirmScope, today: string): Promise<SiteSummary[]> =>
  scope.query(
    `select y.site_id, count(distinct y.id)::int as systems, min(f.due_on)::text as next,
       (count(*) filter (where f.spent_on <= $2))::int as spent, (count(*) filter (where f.due_on < $2 and f.spent_on > $2))::int as overdue from system y
     left join stage_forecast f on f.firm_id = y.firm_id and f.system_id = y.id
     where y.firm_id = $1 and y.gone_at is null group by y.site_id`,
    [today],
  )

/** All sites by name, each with its next due day and the strictest hold that is on. */
export async function sitesPage(scope: FirmScope, now: Date): Promise<SiteRowDto[]> {
  const [firm, sites] = await Promise.all([loadFirm(scope), scope.find(Site, { goneAt: IsNull() }, { name: 'ASC' })])
  const today = dayIn(firm.timeZone, now)
  const siteIds = sites.map(({ id }) => id)
  const [rows, holds] = await Promise.all([summaries(scope, today), holdsOn(scope, siteIds, now)])
  const bySite = new Map(rows.map((row) => [row.site_id, row]))
  return sites.map(({ id, name, village, island, lat, lon }) => {
    const own = bySite.get(id)
    const hold = strictestHold(holds.get(id) ?? [], now.toISOString())
    const next = own?.next ?? null
    // What should be done by now and is not: the next day for it is today.
    const nextDue = next !== null && next < today ? today : next
    const { systems = 0, spent = 0, overdue = 0 } = own ?? {}
    return { id, name, village, island, lat, lon, systems, nextDue, spent, overdue, hold: hold?.holdKind ?? null }
  })
}

export async function sitePage(scope: FirmScope, id: string, now: Date): Promise<SitePageDto> {
  const firm = await loadFirm(scope)
  const known = await scope.findOne(Site, { id })
  // An old way to a site that was merged leads to the one it is now.
  if (known?.mergedInto) return sitePage(scope, known.mergedInto, now)
  const site = known?.goneAt === null ? known : null
  if (!site) throw notFound('site')
  const systems = await systemsOf(scope, [site], dayIn(firm.timeZone, now))
  const holds = await holdsOn(scope, [id], now)
  const histories = await historiesOf(scope, systems, firm.timeZone)
  return {
    site: siteDto(site),
    systems,
    holds: holds.get(id) ?? [],
    visits: await visitRows(scope, { siteId: id }),
    faults: await faultsOf(scope, id),
    sameCustomer: await sameCustomer(scope, site),
    photos: await databasePhotos(scope).ofSystems(systems.map((system) => system.id)),
    mended: await mendedOf(scope, id),
    histories,
  }
}
