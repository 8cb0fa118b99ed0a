export {
  commonDayFrom,
  FURTHEST_DAYS,
  isWorkingDay,
  MONDAY_TO_FRIDAY,
  type WorkCalendar,
  workingDayFrom,
  workingDaysAfter,
  workingDaysBefore,
} from './calendar'
export { type Learned, learnedMinutes } from './learn'
export { type DayMinute, firstSlot } from './slot'
