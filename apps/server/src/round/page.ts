import type { RoundMark, RoundPage } from '@evenround/contract/rounds'
import { Person, Site, Stop } from '../db/entities/master'
import { RoundMarkRow, type RoundPublication } from '../db/entities/round'
import type { FirmScope } from '../db/scope'
import { instantAt } from '../http/zone'
import type { Draft } from './draft'

const windowOf = ({ fromMin, toMin }: RoundMarkRow): RoundMark['window'] => (fromMin === null || toMin === null ? null : [fromMin, toMin])

/** The round as a screen shows it: what is to be planned, the plan in the making, what was decided, what is published. */
export async function roundPage(scope: FirmScope, { set, standing, row }: Draft, timeZone: string): Promise<RoundPage> {
  const names = new Map((await scope.find(Person)).map(({ id, name }) => [id, name]))
  const visits = new Set(set.visits.map(({ id }) => id))
  const marks = (await scope.find(RoundMarkRow, {}, { madeAt: 'ASC' })).filter(({ visitId }) => visits.has(visitId))
  const [last] = await scope.query<Pick<RoundPublication, 'number'> & { published_by: string; published_at: Date }>(
    'select number, published_by, published_at from round_publication where firm_id = $1 order by number desc limit 1',
  )
  return {
    set,
    draft: { version: row.version, plan: row.plan, changedAt: row.changedAt.toISOString(), byName: names.get(row.changedBy) ?? '' },
    marks: marks.map((mark) => ({
      id: mark.id,
      visitId: mark.visitId,
      kind: mark.kind,
      day: mark.day,
      window: windowOf(mark),
      why: mark.why,
      byName: names.get(mark.madeBy) ?? '',
    })),
    publication: last
      ? { number: last.number, publishedAt: last.published_at.toISOString(), byName: names.get(last.published_by) ?? '' }
      : null,
    published: standing,
    flags: await flagsOf(scope, set.today, timeZone),
  }
}

/** Stops on the road that no longer keep the window of what they go on from. */
async function flagsOf(scope: FirmScope, today: string, timeZone: string): Promise<RoundPage['flags']> {
  const rows = await scope.query<{ id: string }>(
    'select id from stop where firm_id = $1 and day >= $2 and (not_before is not null or not_after is not null) order by day, order_no',
    [today],
  )
  const flags: RoundPage['flags'] = []
  for (const { id } of rows) {
    const stop = await scope.findOne(Stop, { id })
    if (!stop) continue
    const begins = instantAt(timeZone, stop.day, stop.arriveMin)
    const early = stop.notBefore !== null && begins < stop.notBefore
    const late = stop.notAfter !== null && begins > stop.notAfter
    if (!early && !late) continue
    const site = await scope.findOne(Site, { id: stop.siteId })
    const text = early ? 'is planned before what it waits for is over' : 'is planned after the last moment it may begin'
    flags.push({ stopId: id, siteName: site?.name ?? '', day: stop.day, text })
  }
  return flags
}
