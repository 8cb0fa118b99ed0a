import { hasRight } from '@evenround/core/firm'
import { workingDaysAfter } from '@evenround/core/schedule'
import { say } from '@evenround/core/words'
import { Firm, Stop } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import type { Who } from '../../http/env'
import { ApiError, badInput, notFound } from '../../http/errors'
import { dayIn } from '../../time/zone'
import { visitsOfStops } from '../facts/read'
import { calendarOf } from '../times/calendar'

/**
 * Takes a stop off today and puts it at the end of the technician's next working day, or of the day asked for. What somebody has begun,
 * what is promised and what hangs on a job or an earlier visit is not put off this way.
 */
export async function putOff(scope: FirmScope, who: Who, id: string, wanted: string | null, now: Date): Promise<{ day: string }> {
  const stop = await scope.findOne(Stop, { id })
  const firm = await scope.findOne(Firm, {})
  if (!stop || !firm) throw notFound('stop')
  if (stop.technicianId !== who.personId && !hasRight(who.role, 'plan-rounds'))
    throw new ApiError('NO_RIGHT', say`Only one’s own stops can be put off.`)
  if ((await visitsOfStops(scope, [id])).has(id)) throw new ApiError('CONFLICT', say`Somebody has begun this stop: it stays on its day.`)
  if (stop.promised || stop.jobId !== null || stop.followsVisit !== null)
    throw new ApiError('CONFLICT', say`This stop was promised, or hangs on other work: the planner has to move it.`)
  const today = dayIn(firm.timeZone, now)
  if (wanted !== null && wanted < today) throw badInput([{ path: 'day', message: say`expected today or a later day, got ${wanted}` }])
  const calendar = await calendarOf(scope, stop.technicianId)
  const day = wanted ?? workingDaysAfter(calendar, today, 1)
  if (day === null) throw new ApiError('CONFLICT', say`This technician has no working day ahead; the planner has to find one.`)
  const last = (await scope.find(Stop, { technicianId: stop.technicianId, day }, { orderNo: 'ASC' })).filter((one) => one.id !== id).at(-1)
  const leaveMin = last ? last.arriveMin + last.workMin : calendar.fromMin
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
