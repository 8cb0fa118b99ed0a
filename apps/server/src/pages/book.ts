import type { BookDto, VisitPageDto } from '@evenround/contract/book'
import type { SystemDto } from '@evenround/contract/site'
import type { VisitBegun } from '@evenround/core/visit'
import { Site, Stop, TrainVersion } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { BOOK_PAGE, visitFacts, visitRows } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import { databasePhotos } from '../features/photo/store'
import { siteDto } from '../features/site/routes'
import { dayIn } from '../time/zone'
import { systemsOf } from './systems'

/** What was done, newest first, a page at a time; `next` asks for the following page. */
export async function bookPage(scope: FirmScope, before?: string): Promise<BookDto> {
  const [at, visitId] = before?.split('~') ?? []
  const visits = await visitRows(scope, at && visitId ? { before: { at: new Date(at), visitId } } : {})
  const last = visits.at(-1)
  // Two visits may begin at one instant: the place in the book is the instant and the visit.
  return { visits, next: visits.length < BOOK_PAGE || !last ? null : `${last.begunAt}~${last.visitId}` }
}

/** One visit with all its facts. A visit the server has not heard of is an empty one: its beginning may still be on the device. */
export async function visitPage(scope: FirmScope, id: string, now: Date): Promise<VisitPageDto> {
  const facts = await visitFacts(scope, id)
  const photos = await databasePhotos(scope).ofVisit(id)
  const [visit] = await visitRows(scope, { visitId: id })
  const followUp = await followUpOf(scope, id)
  if (!visit) return { visit: null, site: null, system: null, facts, photos, followUp }
  const firm = await loadFirm(scope)
  const site = await scope.findOne(Site, { id: visit.siteId })
  if (!site) return { visit, site: null, system: null, facts, photos, followUp }
  const systems = await systemsOf(scope, [site], dayIn(firm.timeZone, now), { withGone: true })
  const begun = facts.find(({ fact }) => fact.kind === 'visit-begun')?.fact
  const system = begun?.kind === 'visit-begun' ? await asItBegan(scope, systems, begun) : null
  return { visit, site: siteDto(site), system, facts, photos, followUp }
}

export async function followUpOf(scope: FirmScope, visitId: string): Promise<VisitPageDto['followUp']> {
  const stop = await scope.findOne(Stop, { followsVisit: visitId })
  return stop?.followsWhy ? { stopId: stop.id, day: stop.day, why: stop.followsWhy } : null
}

/** The system on the train's version this visit began with: a later edit leaves it alone. */
async function asItBegan(
  scope: FirmScope,
  systems: readonly SystemDto[],
  { systemId, trainVersion }: VisitBegun,
): Promise<SystemDto | null> {
  const now = systems.find(({ id }) => id === systemId)
  if (!now || now.trainVersion === trainVersion) return now ?? null
  const pinned = await scope.findOne(TrainVersion, { systemId, version: trainVersion })
  return pinned ? { ...now, trainVersion, train: pinned.train } : now
}
