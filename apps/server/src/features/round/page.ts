import { planChange } from '@evenround/contract/draft-change'
import type { DraftChange, RoundMark, RoundState } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { Person } from '../../db/entities/master'
import { RoundMarkRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { instantAt } from '../../time/zone'
import { publications, runsNow } from './decided'
import type { Draft } from './draft'

const windowOf = ({ fromMin, toMin }: RoundMarkRow): RoundMark['window'] => (fromMin === null || toMin === null ? null : [fromMin, toMin])

/** The round as a screen shows it beside its set: the plan in the making, what was decided, what is published. */
export async function roundState(scope: FirmScope, { set, standing, row }: Draft, timeZone: string): Promise<RoundState> {
  const visits = new Set(set.visits.map(({ id }) => id))
  const [people, allMarks, [publication], flags, runs] = await Promise.all([
    scope.find(Person),
    scope.find(RoundMarkRow, {}, { madeAt: 'ASC' }),
    publications(scope, 1),
    flagsOf(scope, set.today, timeZone),
    runsNow(scope),
  ])
  const names = new Map(people.map(({ id, name }) => [id, name]))
  const marks = allMarks.filter(({ visitId }) => visits.has(visitId))
  return {
    setId: set.id,
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
    publication: publication ?? null,
    published: standing,
    flags,
    ...runs,
  }
}

/** What an act did to the plan in the making. */
export async function draftChange(scope: FirmScope, { set, row: before }: Draft, after: Draft['row']): Promise<DraftChange> {
  const by = await scope.findOne(Person, { id: after.changedBy })
  return {
    setId: set.id,
    fromVersion: before.version,
    version: after.version,
    changedAt: after.changedAt.toISOString(),
    byName: by?.name ?? '',
    ...planChange(before.plan, after.plan),
  }
}

/** Stops on the road that no longer keep the window of what they go on from. */
async function flagsOf(scope: FirmScope, today: string, timeZone: string): Promise<RoundState['flags']> {
  const rows = await scope.query<{
    id: string
    name: string
    day: string
    arrive_min: number
    not_before: Date | null
    not_after: Date | null
  }>(
    `select stop.id, site.name, stop.day, stop.arrive_min, stop.not_before, stop.not_after from stop
     join site on site.firm_id = stop.firm_id and site.id = stop.site_id
     where stop.firm_id = $1 and stop.day >= $2 and (stop.not_before is not null or stop.not_after is not null) order by stop.day, stop.order_no`,
    [today],
  )
  return rows.flatMap(({ id, name, day, arrive_min, not_before, not_after }) => {
    const begins = instantAt(timeZone, day, arrive_min)
    const early = not_before !== null && begins < not_before
    const late = not_after !== null && begins > not_after
    if (!early && !late) return []
    const text = early ? say`is planned before what it waits for is over` : say`is planned after the last moment it may begin`
    return [{ stopId: id, siteName: name, day, text }]
  })
}
