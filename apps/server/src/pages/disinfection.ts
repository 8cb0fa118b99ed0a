import type { DisinfectionPage, DisinfectionSetup } from '@evenround/contract/disinfections'
import { IsNull } from 'typeorm'
import { Disinfection } from '../db/entities/disinfection'
import { Person, Site } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { chlorineProducts, disinfectionRows, earlierPositives } from '../features/disinfection/store'
import { jobFacts, jobsBefore } from '../features/facts/job'
import { holdsOfJobs, holdsOn } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import { siteDto } from '../features/site/routes'
import { notFound } from '../http/errors'
import { dayIn } from '../time/zone'
import { systemsOf } from './systems'

type Doer = DisinfectionPage['people'][number]
const doers = async (scope: FirmScope): Promise<Doer[]> =>
  (await scope.find(Person, { active: true }, { name: 'ASC' }))
    .filter(({ role }) => role !== 'viewer')
    .map(({ id, name, skills }) => ({ id, name, wells: skills.includes('wells') }))

/** Days on which a van carries descaler: somewhere a sleeve is cleaned. */
const acidDays = (scope: FirmScope, from: string): Promise<{ technicianId: string; day: string; siteName: string }[]> =>
  scope.query(
    `select s.technician_id as "technicianId", s.day, site.name as "siteName" from stop s
     join stop_task t on t.firm_id = s.firm_id and t.stop_id = s.id and t.action = 'clean'
     join site on site.firm_id = s.firm_id and site.id = s.site_id
     where s.firm_id = $1 and s.day >= $2 order by s.day`,
    [from],
  )

/** What a plan for a site is made from. */
export async function disinfectionSetup(scope: FirmScope, siteId: string, now: Date): Promise<DisinfectionSetup> {
  const firm = await loadFirm(scope)
  const site = await scope.findOne(Site, { id: siteId, goneAt: IsNull() })
  if (!site) throw notFound('site')
  const today = dayIn(firm.timeZone, now)
  return {
    today,
    site: siteDto(site),
    systems: await systemsOf(scope, [site], today),
    people: await doers(scope),
    products: await chlorineProducts(scope, today),
    acid: await acidDays(scope, today),
    jobs: await disinfectionRows(scope, siteId),
  }
}

/** One job with all its facts, and what its screens need without a signal. */
export async function disinfectionPage(scope: FirmScope, id: string, now: Date): Promise<DisinfectionPage> {
  const firm = await loadFirm(scope)
  const job = await scope.findOne(Disinfection, { id })
  const site = job && (await scope.findOne(Site, { id: job.siteId, goneAt: IsNull() }))
  if (!job || !site) throw notFound('disinfection')
  const today = dayIn(firm.timeZone, now)
  const holds = await holdsOn(scope, [site.id], now)
  const acid = await acidDays(scope, job.doseDay)
  return {
    id,
    site: siteDto(site),
    systems: await systemsOf(scope, [site], today),
    holds: holds.get(site.id) ?? [],
    earlierHolds: await holdsOfJobs(scope, await jobsBefore(scope, job)),
    facts: await jobFacts(scope, id),
    people: await doers(scope),
    earlierPositives: await earlierPositives(scope, job),
    acid: acid.filter(({ technicianId, day }) => technicianId === job.technicianId && day === job.doseDay).map(({ siteName }) => siteName),
  }
}
