import type { StopPageDto, TodayDto, WeekDto } from '@evenround/contract/site'
import { stopWith } from '../testing/stop'
import { ApiProblem } from './api'
import { dayFromWeek, isOffline } from './day'

const line = (id: string, siteName: string) => ({
  id,
  order: 1,
  leaveMin: 480,
  arriveMin: 500,
  workMin: 60,
  travelMin: 20,
  ferryAt: null,
  promised: false,
  siteName,
})
const today: TodayDto = {
  day: '2026-11-25',
  timeZone: 'Atlantic/Azores',
  fromMin: 480,
  toMin: 960,
  homeMin: 900,
  stops: [],
  late: { spent: 0, overdue: 0 },
  publication: null,
}
const week: WeekDto = {
  from: '2026-11-25',
  fromMin: 480,
  toMin: 960,
  days: [
    { day: '2026-11-25', homeMin: 900, stops: [] },
    { day: '2026-11-26', homeMin: 870, stops: [line('a', 'Net loft cottage'), line('b', 'Kelp press')] },
  ],
}
const page = (id: string): StopPageDto => ({
  stop: { ...stopWith('under-sink-2', [1]), id },
  history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null },
  wear: [],
  counter: null,
})

test('after midnight without a network the new day is put together from the week and the stops on the device', () => {
  const next = dayFromWeek('2026-11-26', today, week, (id) => (id === 'a' ? page('a') : undefined))
  expect(next).toMatchObject({ day: '2026-11-26', homeMin: 870 })
  expect(next?.stops.map(({ id }) => id)).toEqual(['a'])
})

test('a day beyond the week is not made up', () => {
  expect(dayFromWeek('2026-12-09', today, week, page)).toBeNull()
})

test('only a missing network counts as offline', () => {
  expect([isOffline(new ApiProblem('OFFLINE', 'x', true)), isOffline(new ApiProblem('INTERNAL', 'x', true)), isOffline(null)]).toEqual([
    true,
    false,
    false,
  ])
})
