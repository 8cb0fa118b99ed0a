import { addDays, isIsoDay } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import ICAL from 'ical.js'
import { badInput } from '../../http/errors'

export interface Holiday {
  fromDay: string
  toDay: string
  why: string
}

/** Yearly holidays are written out for this many years from the first. */
const YEARS = 6
const MOST = 400

const dayOf = (time: ICAL.Time): string =>
  `${String(time.year).padStart(4, '0')}-${String(time.month).padStart(2, '0')}-${String(time.day).padStart(2, '0')}`

/** Whole-day events of an iCalendar file (RFC 5545), those that come again written out; events of an hour are no days off. Bad files are refused with the reason. */
export function holidaysOf(text: string, today: string): Holiday[] {
  const file = parsed(text)
  const until = addDays(today, YEARS * 366)
  const found: Holiday[] = []
  for (const component of file.getAllSubcomponents('vevent')) {
    const event = new ICAL.Event(component)
    if (!event.startDate?.isDate) continue
    const length = Math.max(1, Math.round((event.endDate.toJSDate().getTime() - event.startDate.toJSDate().getTime()) / 86_400_000))
    const starts: string[] = []
    if (event.isRecurring()) {
      const times = event.iterator()
      for (let next = times.next(); next && starts.length < MOST && dayOf(next) <= until; next = times.next()) starts.push(dayOf(next))
    } else starts.push(dayOf(event.startDate))
    for (const fromDay of starts) {
      const toDay = addDays(fromDay, length - 1)
      if (isIsoDay(fromDay) && toDay >= today) found.push({ fromDay, toDay, why: (event.summary ?? '').trim().slice(0, 120) })
    }
  }
  return found.sort((a, b) => (a.fromDay < b.fromDay ? -1 : 1)).slice(0, MOST)
}

function parsed(text: string): ICAL.Component {
  try {
    const read: unknown = ICAL.parse(text)
    if (!Array.isArray(read)) throw new Error(say`it holds nothing`)
    const file = new ICAL.Component(read)
    if (file.name === 'vcalendar') return file
  } catch (error) {
    throw badInput([
      { path: 'text', message: say`expected an iCalendar file; ${error instanceof Error ? error.message : say`it cannot be read`}` },
    ])
  }
  throw badInput([{ path: 'text', message: say`expected an iCalendar file that begins with BEGIN:VCALENDAR` }])
}
