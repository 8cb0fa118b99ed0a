import { addDays } from '@evenround/core/units'
import { Firm, Person } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { dayIn } from '../../time/zone'
import { roadCalendar } from './formats'
import { roadFrom } from './road'

/** Days of the past that a calendar still shows. */
const DAYS_BACK = 14

/** The firm and its own day. */
export async function todayOf(scope: FirmScope, now: Date): Promise<{ firm: Firm; today: string }> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  return { firm, today: dayIn(firm.timeZone, now) }
}

/** One person's part of the published round, as iCalendar. */
export async function calendarOf(scope: FirmScope, personId: string, now: Date): Promise<string> {
  const { firm, today } = await todayOf(scope, now)
  const person = await scope.findOne(Person, { id: personId })
  const road = await roadFrom(scope, addDays(today, -DAYS_BACK), personId)
  return roadCalendar(road, { name: `${person?.name ?? ''}: round`, timeZone: firm.timeZone, now })
}
