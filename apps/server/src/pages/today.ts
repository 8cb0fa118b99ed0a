import type { RoundChange, StopPageDto, TodayDto, WeekDto } from '@evenround/contract/site'
import { wearInputFields } from '@evenround/contract/wear-input'
import { addDays } from '@evenround/core/units'
import { Between } from 'typeorm'
import { Firm, Site, Stop } from '../db/entities/master'
import { WorkTimeRow } from '../db/entities/round'
import type { FirmScope } from '../db/scope'
import { tdsHistory } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import { USUAL_TIMES } from '../features/times/team'
import { knownOfSystems } from '../features/wear/inputs'
import { looksOf, readingRows } from '../features/wear/rows'
import type { Who } from '../http/env'
import { notFound } from '../http/errors'
import { dayIn, instantAt } from '../time/zone'
import { homeMin, stopDtos } from './stops'
import { NO_HISTORY } from './systems'

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

/** The signed-in person's day: stops in order, each with what is due and why. */
export async function todayPage(scope: FirmScope, who: Who, now: Date): Promise<TodayDto> {
  const firm = await loadFirm(scope)
  const day = dayIn(firm.timeZone, now)
  const stops = await scope.find(Stop, { technicianId: who.personId, day }, { orderNo: 'ASC' })
  const publication = await newsOf(scope, who)
  return {
    day,
    timeZone: firm.timeZone,
    ...(await hoursOf(scope, who)),
    homeMin: homeMin(stops),
    stops: await stopDtos(scope, stops, day, now),
    publication,
  }
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
  const names = new Map((await scope.find(Site)).map(({ id, name }) => [id, name]))
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

/** One stop, with the site's earlier readings to judge new ones by. */
export async function stopPage(scope: FirmScope, id: string, now: Date): Promise<StopPageDto> {
  const firm = await scope.findOne(Firm, {})
  const stop = await scope.findOne(Stop, { id })
  if (!stop || !firm) throw notFound('stop')
  const [dto] = await stopDtos(scope, [stop], dayIn(firm.timeZone, now), now)
  if (!dto) throw notFound('stop')
  const membrane = dto.system.stages.find(({ media }) => media === 'membrane')
  const fitted = membrane?.part ? instantAt(firm.timeZone, membrane.part.fittedOn, 0) : null
  const history = await tdsHistory(scope, dto.system.id, fitted, dto.visit?.id ?? null)
  const known = await knownOfSystems(scope, [dto.system.id], { firm, today: dayIn(firm.timeZone, now) })
  const wear = [...known].flatMap(([stageId, { input }]) => (input === null ? [] : [{ stageId, input: wearInputFields.parse(input) }]))
  const looks = looksOf(await readingRows(scope, [dto.system.id]))
  const last = looks.at(-1)
  const counter = last ? { displayL: last.displayL, at: new Date(last.atMs).toISOString() } : null
  return { stop: dto, history: history ?? NO_HISTORY, wear, counter }
}
