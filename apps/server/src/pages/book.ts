import type { BookDto, BookFilter, VisitPageDto } from '@evenround/contract/book'
import type { SystemDto } from '@evenround/contract/site'
import { addDays } from '@evenround/core/units'
import type { VisitBegun } from '@evenround/core/visit'
import { csvText } from '../csv'
import { Site, Stop, TrainVersion } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { BOOK_PAGE, visitFacts, visitRows } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import { databasePhotos } from '../features/photo/store'
import { siteDto } from '../features/site/routes'
import { dayIn, instantAt } from '../time/zone'
import { systemsOf } from './systems'

/** What was done, newest first, a page at a time; `next` asks for the following page. */
export async function bookPage(
  scope: FirmScope,
  { before, from, to, photos, ...filter }: BookFilter & { before?: string | undefined },
): Promise<BookDto> {
  const [at, visitId] = before?.split('~') ?? []
  const { timeZone } = await loadFirm(scope)
  const visits = await visitRows(scope, {
    ...filter,
    photos: photos === 'yes',
    from: from === undefined ? null : instantAt(timeZone, from, 0),
    until: to === undefined ? null : instantAt(timeZone, addDays(to, 1), 0),
    ...(at && visitId ? { before: { at: new Date(at), visitId } } : {}),
  })
  const last = visits.at(-1)
  // Two visits may begin at one instant: the place in the book is the instant and the visit.
  return { visits, next: visits.length < BOOK_PAGE || !last ? null : `${last.begunAt}~${last.visitId}` }
}

const CSV_FIELDS = ['begun_at', 'finished_at', 'site', 'system', 'person', 'outcome', 'parts_fitted', 'photos', 'visit_id', 'site_id']

/** The visits wanted as CSV, newest first, page by page. */
export async function bookCsv(scope: FirmScope, filter: BookFilter): Promise<string> {
  const data: (string | number)[][] = []
  let before: string | undefined
  do {
    const page: BookDto = await bookPage(scope, { ...filter, before })
    for (const row of page.visits)
      data.push([
        row.begunAt,
        row.finishedAt ?? '',
        row.siteName,
        row.systemName,
        row.personName,
        row.outcome ?? '',
        row.fitted.join(' '),
        row.photos ?? 0,
        row.visitId,
        row.siteId,
      ])
    before = page.next ?? undefined
  } while (before !== undefined)
  return csvText(CSV_FIELDS, data)
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
