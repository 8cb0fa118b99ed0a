import type { RoundChange, StopPageDto, TodayDto, WeekDto } from '@evenround/contract/site'
import { wearInputFields } from '@evenround/contract/wear-input'
import { addDays } from '@evenround/core/units'
import { Between, In } from 'typeorm'
import { Firm, Site, Stop } from '../db/entities/master'
import { WorkTimeRow } from '../db/entities/round'
import type { FirmScope } from '../db/scope'
import { loadFirm } from '../features/firm/store'
import { USUAL_TIMES } from '../features/times/team'
import { lateCounts } from '../features/wear/due'
import { knownOfSystems } from '../features/wear/inputs'
import { counterReadingsOf, grouped, readingRows } from '../features/wear/rows'
import type { Who } from '../http/env'
import { notFound } from '../http/errors'
import { dayIn } from '../time/zone'
import { homeMin, stopDtos } from './stops'
import { historiesOf } from './systems'

/** The person's own working day, minutes after midnight. */
async function hoursOf(scope: FirmScope, { personId }: Who): Promise<{ fromMin: number; toMin: number }> {
  const { fromMin, toMin } = (await scope.findOne(WorkTimeRow, { id: personId })) ?? USUAL_TIMES
  return { fromMin, toMin }
}

/** The publication the road is by, and what it changed for this person. */
async function newsOf(scope: FirmScope, { name }: Who): Promise<TodayDto['publication']> {
  const [last] = await scope.query<{ number: number; published_at: Date; changes: RoundChange[] }>(
    'select number, published_at, changes from round_publication where firm_id = $1 order by number desc limit 1',
  )
  if (!last) return null
  // The first has nothing to differ from.
  const own = last.number === 1 ? [] : last.changes.filter(({ was, now }) => was?.technician === name || now?.technician === name)
  return { number: last.number, publishedAt: last.published_at.toISOString(), changes: own }
}

/** The signed-in person's day without its stops' pages. */
export async function dayHead(scope: FirmScope, who: Who, now: Date): Promise<Omit<TodayDto, 'stops' | 'homeMin'>> {
  const { timeZone } = await loadFirm(scope)
  const day = dayIn(timeZone, now)
  const [late, hours, publication] = await Promise.all([lateCounts(scope, day), hoursOf(scope, who), newsOf(scope, who)])
  return { day, timeZone, ...hours, late, publication }
}

/** The signed-in person's day: stops in order, each with what is due and why. */
export async function todayPage(scope: FirmScope, who: Who, now: Date): Promise<TodayDto> {
  const head = await dayHead(scope, who, now)
  const stops = await scope.find(Stop, { technicianId: who.personId, day: head.day }, { orderNo: 'ASC' })
  return { ...head, homeMin: homeMin(stops), stops: await stopDtos(scope, stops, head.day, now) }
}

/** Seven days of the signed-in person's stops, for the day lines. */
export async function weekPage(scope: FirmScope, who: Who, now: Date, from?: string): Promise<WeekDto> {
  const firm = await loadFirm(scope)
  const first = from ?? dayIn(firm.timeZone, now)
  const stops = await scope.find(
    Stop,
    { technicianId: who.personId, day: Between(first, addDays(first, 6)) },
    { day: 'ASC', orderNo: 'ASC' },
  )
  const sites = await scope.find(Site, { id: In(stops.map(({ siteId }) => siteId)) })
  const names = new Map(sites.map(({ id, name }) => [id, name]))
  const days = Array.from({ length: 7 }, (_, index) => {
    const day = addDays(first, index)
    const own = stops.filter((stop) => stop.day === day)
    const lines = own.map(({ id, orderNo, leaveMin, arriveMin, workMin, travelMin, ferryAt, promised, siteId }) => ({
      id,
      order: orderNo,
      leaveMin,
      arriveMin,
      workMin,
      travelMin,
      ferryAt,
      promised,
      siteName: names.get(siteId) ?? '',
    }))
    return { day, homeMin: homeMin(own), stops: lines }
  })
  return { from: first, days, ...(await hoursOf(scope, who)) }
}

/** Stops, each with its system's earlier readings to judge new ones by. */
export async function stopPages(scope: FirmScope, stops: readonly Stop[], now: Date): Promise<StopPageDto[]> {
  const firm = await scope.findOne(Firm, {})
  if (stops.length === 0 || !firm) return []
  const today = dayIn(firm.timeZone, now)
  const dtos = await stopDtos(scope, stops, today, now)
  const systemIds = [...new Set(dtos.map(({ system }) => system.id))]
  const known = await knownOfSystems(scope, systemIds, { firm, today })
  const readings = grouped(await readingRows(scope, systemIds), ({ systemId }) => systemId)
  const histories = await historiesOf(
    scope,
    dtos.map(({ system }) => system),
    firm.timeZone,
    dtos.map(({ visit }) => visit?.id ?? null),
  )
  return dtos.flatMap((stop, index) => {
    const history = histories[index]?.history
    if (!history) return []
    const wear = stop.system.stages.flatMap(({ id }) => {
      const input = known.get(id)?.input
      return input ? [{ stageId: id, input: wearInputFields.parse(input) }] : []
    })
    const last = counterReadingsOf(readings.get(stop.system.id) ?? []).at(-1)
    const counter = last ? { displayL: last.displayL, at: new Date(last.atMs).toISOString() } : null
    return [{ stop, history, wear, counter }]
  })
}

/** One stop, with the site's earlier readings to judge new ones by. */
export async function stopPage(scope: FirmScope, id: string, now: Date): Promise<StopPageDto> {
  const stop = await scope.findOne(Stop, { id })
  const [page] = stop ? await stopPages(scope, [stop], now) : []
  if (!page) throw notFound('stop')
  return page
}
