import type { SiteHours, WorkTime } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { Person, Site } from '../../db/entities/master'
import { DayOffRow, Place, SiteHoursRow, WorkTimeRow } from '../../db/entities/round'
import { Occupancy } from '../../db/entities/wear'
import type { FirmScope } from '../../db/scope'
import { ApiError, badInput, notFound } from '../../http/errors'
import { markSite } from '../wear/stale'
import { USUAL_TIMES } from './team'

const workDto = (person: Person, row: WorkTimeRow | null): WorkTime => ({
  personId: person.id,
  name: person.name,
  van: person.van,
  skills: person.skills,
  base: row?.base ?? null,
  weekdays: [...(row?.weekdays ?? USUAL_TIMES.weekdays)],
  fromMin: row?.fromMin ?? USUAL_TIMES.fromMin,
  toMin: row?.toMin ?? USUAL_TIMES.toMin,
  overtimeMin: row?.overtimeMin ?? USUAL_TIMES.overtimeMin,
  vanKg: row?.vanKg ?? null,
  version: row?.version ?? 1,
})

/** Everybody who could be on the road, with their times. */
export async function workTimes(scope: FirmScope): Promise<WorkTime[]> {
  const rows = new Map((await scope.find(WorkTimeRow)).map((row) => [row.id, row]))
  const people = (await scope.find(Person, { active: true }, { name: 'ASC' })).filter(({ role }) => role !== 'viewer')
  return people.map((person) => workDto(person, rows.get(person.id) ?? null))
}

type WorkEdit = Omit<WorkTime, 'personId' | 'name' | 'van' | 'skills'>
export async function editWorkTime(scope: FirmScope, personId: string, { version, ...edit }: WorkEdit): Promise<WorkTime> {
  const person = await scope.findOne(Person, { id: personId })
  if (!person) throw notFound('person')
  if (edit.base !== null && !(await scope.findOne(Place, { id: edit.base })))
    throw badInput([{ path: 'base', message: say`expected a place the firm knows` }])
  const before = await scope.findOne(WorkTimeRow, { id: personId })
  if ((before?.version ?? 1) !== version)
    throw new ApiError('STALE_VERSION', say`Somebody changed these times meanwhile. Look at both and save again.`, {
      current: workDto(person, before),
    })
  const weekdays = [...new Set(edit.weekdays)].sort((a, b) => a - b)
  const row = { ...edit, weekdays, version: version + 1 }
  if (before) await scope.update(WorkTimeRow, { id: personId }, row)
  else await scope.insert(WorkTimeRow, { ...row, id: personId })
  return workDto(person, await scope.findOne(WorkTimeRow, { id: personId }))
}

export async function daysOff(scope: FirmScope, from: string): Promise<DayOffRow[]> {
  const rows = await scope.find(DayOffRow, {}, { fromDay: 'ASC' })
  return rows.filter(({ toDay }) => toDay >= from)
}

/** Takes a stretch of days off back. */
export const dropDayOff = (scope: FirmScope, id: string): Promise<unknown> =>
  scope.query('delete from day_off where firm_id = $1 and id = $2', [id])

/** Opening, closed weekdays, the minutes to get in, and the stretches in which a site is shut. */
export async function siteHours(scope: FirmScope, siteId: string, today: string): Promise<SiteHours> {
  if (!(await scope.findOne(Site, { id: siteId }))) throw notFound('site')
  const row = await scope.findOne(SiteHoursRow, { id: siteId })
  const closings = (await scope.find(Occupancy, { siteId }, { fromDay: 'ASC' })).filter(({ share, toDay }) => share === 0 && toDay >= today)
  return {
    siteId,
    open: row?.open ?? [],
    closedWeekdays: row?.closedWeekdays ?? [],
    accessMin: row?.accessMin ?? null,
    closings: closings.map(({ id, fromDay, toDay }) => ({ id, fromDay, toDay })),
    version: row?.version ?? 1,
  }
}

/** Closings are stretches without use to the wear model too: the site's forecasts are recomputed. */
export async function editSiteHours(
  scope: FirmScope,
  siteId: string,
  edit: Omit<SiteHours, 'siteId'>,
  today: string,
  now: Date,
): Promise<SiteHours> {
  const current = await siteHours(scope, siteId, today)
  if (current.version !== edit.version)
    throw new ApiError('STALE_VERSION', say`Somebody changed these hours meanwhile. Look at both and save again.`, { current })
  edit.open.forEach(([from], index) => {
    const before = edit.open[index - 1]
    if (before && from < before[1])
      throw badInput([{ path: `open[${index}]`, message: say`expected spans one after another, without overlap` }])
  })
  edit.closings.forEach(({ fromDay, toDay }, index) => {
    if (fromDay >= toDay) throw badInput([{ path: `closings[${index}].toDay`, message: say`expected a day after the first` }])
  })
  const row = { open: edit.open, closedWeekdays: [...new Set(edit.closedWeekdays)], accessMin: edit.accessMin, version: edit.version + 1 }
  if (await scope.findOne(SiteHoursRow, { id: siteId })) await scope.update(SiteHoursRow, { id: siteId }, row)
  else await scope.insert(SiteHoursRow, { ...row, id: siteId })
  const kept = new Map(current.closings.map((closing) => [closing.id, closing]))
  const same = edit.closings.every(({ id, fromDay, toDay }) => kept.get(id)?.fromDay === fromDay && kept.get(id)?.toDay === toDay)
  if (!same || edit.closings.length !== current.closings.length) {
    await scope.query('delete from occupancy where firm_id = $1 and site_id = $2 and share = 0 and id = any($3)', [
      siteId,
      [...kept.keys()],
    ])
    await scope.insert(
      Occupancy,
      edit.closings.map((closing) => ({ ...closing, siteId, share: 0 })),
    )
    await markSite(scope, now, siteId)
  }
  return siteHours(scope, siteId, today)
}

/** How long getting in takes at a site, where it has a figure of its own. */
export const siteAccess = async (scope: FirmScope, siteId: string): Promise<number | null> =>
  (await scope.findOne(SiteHoursRow, { id: siteId }))?.accessMin ?? null
