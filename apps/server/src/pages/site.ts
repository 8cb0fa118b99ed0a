import type { SitePageDto, SiteRowDto, SystemDto } from '@evenround/contract/site'
import { strictestHold } from '@evenround/core/visit'
import { Site } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { holdsOn, visitRows } from '../facts/read'
import { loadFirm } from '../features/firm/store'
import { siteDto } from '../features/site/routes'
import { notFound } from '../http/errors'
import { dayIn } from '../http/zone'
import { systemsOf } from './systems'

function nextDue(systems: readonly SystemDto[]): string | null {
  const medians = systems.flatMap(({ stages }) => stages.flatMap(({ forecast }) => (forecast ? [forecast.p50] : [])))
  return medians.sort()[0] ?? null
}

/** All sites by name, each with its next due day and the strictest hold that is on. */
export async function sitesPage(scope: FirmScope, now: Date): Promise<SiteRowDto[]> {
  const firm = await loadFirm(scope)
  const sites = await scope.find(Site, {}, { name: 'ASC' })
  const systems = await systemsOf(scope, sites, dayIn(firm.timeZone, now))
  const holds = await holdsOn(
    scope,
    sites.map(({ id }) => id),
    now,
  )
  return sites.map(({ id, name, village, island }) => {
    const own = systems.filter(({ siteId }) => siteId === id)
    const hold = strictestHold(holds.get(id) ?? [], now.toISOString())
    return { id, name, village, island, systems: own.length, nextDue: nextDue(own), hold: hold?.holdKind ?? null }
  })
}

export async function sitePage(scope: FirmScope, id: string, now: Date): Promise<SitePageDto> {
  const firm = await loadFirm(scope)
  const site = await scope.findOne(Site, { id })
  if (!site) throw notFound('site')
  const systems = await systemsOf(scope, [site], dayIn(firm.timeZone, now))
  const holds = await holdsOn(scope, [id], now)
  return { site: siteDto(site), systems, holds: holds.get(id) ?? [], visits: await visitRows(scope, { siteId: id }) }
}
