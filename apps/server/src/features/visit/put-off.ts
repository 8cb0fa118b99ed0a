import { hasRight } from '@evenround/core/firm'
import { addDays, isoWeekday } from '@evenround/core/units'
import { Firm, Stop } from '../../db/entities/master'
import { DayOffRow, WorkTimeRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { visitsOfStops } from '../../facts/read'
import type { Who } from '../../http/env'
import { ApiError, badInput, notFound } from '../../http/errors'
import { dayIn } from '../../http/zone'
import { USUAL_TIMES } from '../../round/times'

/** Days looked ahead for one on which the technician works. */
const FURTHEST_DAYS = 30

/** The technician's next working day after one. */
async function nextWorkingDay(scope: FirmScope, personId: string, after: string): Promise<string> {
  const weekdays: readonly number[] = ((await scope.findOne(WorkTimeRow, { id: personId })) ?? USUAL_TIMES).weekdays
  const off = (await scope.find(DayOffRow)).filter((row) => row.personId === null || row.personId === personId)
  for (let step = 1; step <= FURTHEST_DAYS; step++) {
    const day = addDays(after, step)
    if (weekdays.includes(isoWeekday(day)) && !off.some(({ fromDay, toDay }) => fromDay <= day && day <= toDay)) return day
  }
  throw new ApiError('CONFLICT', `No working day of the next ${FURTHEST_DAYS} is free; the planner has to find one.`)
}

/**
 * Takes a stop off today and puts it at the end of the technician's next working day, or of the day asked for. What somebody has begun,
 * what is promised and what hangs on a job or an earlier visit is not put off this way.
 */
export async function putOff(scope: FirmScope, who: Who, id: string, wanted: string | null, now: Date): Promise<{ day: string }> {
  const stop = await scope.findOne(Stop, { id })
  const firm = await scope.findOne(Firm, {})
  if (!stop || !firm) throw notFound('stop')
  if (stop.technicianId !== who.personId && !hasRight(who.role, 'plan-rounds'))
    throw new ApiError('NO_RIGHT', 'Only one’s own stops can be put off.')
  if ((await visitsOfStops(scope, [id])).has(id)) throw new ApiError('CONFLICT', 'Somebody has begun this stop: it stays on its day.')
  if (stop.promised || stop.jobId !== null || stop.followsVisit !== null)
    throw new ApiError('CONFLICT', 'This stop was promised, or hangs on other work: the planner has to move it.')
  const today = dayIn(firm.timeZone, now)
  if (wanted !== null && wanted < today) throw badInput([{ path: 'day', message: `expected today or a later day, got ${wanted}` }])
  const day = wanted ?? (await nextWorkingDay(scope, stop.technicianId, today))
  const { fromMin } = (await scope.findOne(WorkTimeRow, { id: stop.technicianId })) ?? USUAL_TIMES
  const last = (await scope.find(Stop, { technicianId: stop.technicianId, day }, { orderNo: 'ASC' })).filter((one) => one.id !== id).at(-1)
  const leaveMin = last ? last.arriveMin + last.workMin : fromMin
  await scope.update(
    Stop,
    { id },
    {
      day,
      orderNo: (last?.orderNo ?? 0) + 1,
      leaveMin,
      arriveMin: leaveMin + stop.travelMin,
      homeMin: null,
      ferryAt: null,
      version: stop.version + 1,
    },
  )
  return { day }
}
