import type { WorkCalendar } from '@evenround/core/schedule'
import { DayOffRow, WorkTimeRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { USUAL_TIMES } from './team'

/** When one person works: their times, their days off and the firm's. */
export interface WorkDays extends WorkCalendar {
  fromMin: number
  toMin: number
}

/** A person's calendar; `personId` null gives the firm's own, with its holidays. */
export async function calendarOf(scope: FirmScope, personId: string | null): Promise<WorkDays> {
  const { weekdays, fromMin, toMin } = (personId === null ? null : await scope.findOne(WorkTimeRow, { id: personId })) ?? USUAL_TIMES
  const off = (await scope.find(DayOffRow)).filter((row) => row.personId === null || row.personId === personId)
  return { weekdays, fromMin, toMin, off }
}
