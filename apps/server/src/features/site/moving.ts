import { MOST_CONTACTS } from '@evenround/contract/protocol'
import type { SiteContact } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { Site, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'
import { markSite } from '../wear/stale'
import { standing } from './leaving'

interface Deed {
  id: string
  at: Date
  personId: string
}

const note = (scope: FirmScope, { id, at, personId }: Deed, systemId: string | null, from: string, to: string, wholePast: boolean) =>
  scope.query(
    `insert into site_move (firm_id, id, system_id, from_site, to_site, whole_past, at, person_id) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [id, systemId, from, to, wholePast, at, personId],
  )

/** Visits begun and not finished since; one given up long ago is no work that is going on. */
const OPEN_DAYS = 2
async function refuseOpenVisit(scope: FirmScope, where: 'site_id' | 'system_id', id: string, now: Date): Promise<void> {
  const open = await scope.query(
    `select 1 from fact_visit_begun b where b.firm_id = $1 and b.${where} = $2 and b.at > $3::timestamptz - interval '${OPEN_DAYS} days' and not b.voided
       and not exists (select 1 from fact_visit_begun l where l.firm_id = b.firm_id and l.supersedes = b.id)
       and not exists (select 1 from fact_visit_finished f where f.firm_id = b.firm_id and f.visit_id = b.visit_id) limit 1`,
    [id, now],
  )
  if (open.length > 0) throw new ApiError('CONFLICT', say`A visit is going on there: finish it first, then do this again.`)
}

/** The first contact of a site as one among several. */
const firstOf = ({ name, contact, phone, email }: Site): SiteContact => ({ name: contact.trim() || name, role: '', phone, email })
const says = ({ contact, phone, email }: Site): boolean => [contact, phone, email].some((text) => text.trim() !== '')
const same = (a: SiteContact, b: SiteContact): boolean => a.name === b.name && a.phone === b.phone && a.email === b.email

/** What stays of both: the site that stands keeps its own words, takes what it lacks, and everybody who can be asked. */
function joined(into: Site, from: Site): Partial<Site> {
  const lacks = (['street', 'postcode', 'country', 'access', 'contact', 'phone', 'email'] as const).filter(
    (field) => into[field].trim() === '' && from[field].trim() !== '',
  )
  const contact = lacks.includes('contact') && lacks.includes('phone') && lacks.includes('email')
  const taken = Object.fromEntries(
    lacks.filter((field) => contact || !['contact', 'phone', 'email'].includes(field)).map((field) => [field, from[field]]),
  )
  const others = [...(contact || !says(from) ? [] : [firstOf(from)]), ...from.contacts].filter(
    (one) => !same(one, firstOf(into)) && !into.contacts.some((own) => same(own, one)),
  )
  return {
    ...taken,
    contacts: withRoom([...into.contacts, ...others], into.name),
    ...(into.lat === null ? { lat: from.lat, lon: from.lon } : {}),
  }
}

/** Nobody who could be asked is left out without a word. */
function withRoom(contacts: SiteContact[], site: string): SiteContact[] {
  if (contacts.length > MOST_CONTACTS)
    throw new ApiError(
      'CONFLICT',
      say`Together they have ${contacts.length} further contacts, and ${site} can keep ${MOST_CONTACTS}. Remove some of them first, then merge.`,
    )
  return contacts
}

/** Two sites are the same place: systems, visits, photos, holds and stops of the one are filed under the other. */
export async function merge(scope: FirmScope, intoId: string, fromId: string, deed: Deed): Promise<void> {
  if (intoId === fromId) throw new ApiError('BAD_INPUT', say`A site cannot be merged with itself.`)
  const [into, from] = [await standing(scope, intoId), await standing(scope, fromId)]
  await refuseOpenVisit(scope, 'site_id', fromId, deed.at)
  await scope.manager.query('select merge_sites($1, $2, $3)', [fromId, intoId, deed.at])
  await scope.update(Site, { id: intoId }, { ...joined(into, from), version: into.version + 1 })
  await note(scope, deed, null, fromId, intoId, true)
  await markSite(scope, deed.at, intoId)
}

/**
 * A system hangs at another site from now on. Its visits stay in the book of the site they were made at, unless it was only filed
 * wrongly and had always been there. Its parts, readings and forecasts go with it either way: they are its own.
 */
export async function moveSystem(scope: FirmScope, systemId: string, toId: string, wholePast: boolean, deed: Deed): Promise<void> {
  const to = await standing(scope, toId)
  const system = await scope.findOne(System, { id: systemId })
  if (!system || system.goneAt !== null) throw notFound('system')
  const from = system.siteId
  if (from === to.id) throw new ApiError('BAD_INPUT', say`The system is at this site already.`)
  await refuseOpenVisit(scope, 'system_id', systemId, deed.at)
  const running = await scope.query(
    `select 1 from disinfection d where d.firm_id = $1 and d.site_id = $2 and d.stand not in ('clean', 'flushed', 'stopped') limit 1`,
    [from],
  )
  if (running.length > 0) throw new ApiError('CONFLICT', say`A disinfection is under way at its site: end it first, then move the system.`)
  await scope.update(System, { id: systemId }, { siteId: to.id })
  await scope.query('update stage_forecast set site_id = $3 where firm_id = $1 and system_id = $2', [systemId, to.id])
  await scope.query(
    `update stop s set site_id = $3, version = version + 1 where s.firm_id = $1 and s.system_id = $2
       and not exists (select 1 from fact_visit_begun b where b.firm_id = s.firm_id and b.stop_id = s.id)`,
    [systemId, to.id],
  )
  // What shows the installation stays with it.
  await scope.query('update photo set site_id = $3 where firm_id = $1 and system_id = $2', [systemId, to.id])
  await scope.query('update round_extra set site_id = $3 where firm_id = $1 and system_id = $2', [systemId, to.id])
  if (wholePast) await scope.manager.query('select refile_system($1, $2, $3)', [systemId, from, to.id])
  await note(scope, deed, systemId, from, to.id, wholePast)
  await markSite(scope, deed.at, to.id)
}
