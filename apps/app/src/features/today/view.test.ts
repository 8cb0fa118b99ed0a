import type { TodayDto } from '@evenround/contract/site'
import { stopWith, TODAY } from '../../testing/stop'
import { daySums, partsForDay, stopStates, taskWords } from './view'

const day = (stops: TodayDto['stops'], homeMin: number | null): TodayDto => ({
  day: TODAY,
  timeZone: 'UTC',
  fromMin: 480,
  toMin: 960,
  homeMin,
  stops,
  late: { spent: 0, overdue: 0 },
  publication: null,
})
const first = stopWith('under-sink-3', [1, 2, 3])
const second = stopWith('two-large', [1], { id: 'second', arriveMin: 600, workMin: 30, travelMin: 21 })

test('driving counts the way home, slack what is left of the day', () => {
  expect(daySums(day([first, second], 644))).toEqual({
    stops: '2 stops',
    driving: '49 min driving',
    work: '1 h 50 work',
    home: 'home 10:44',
    slack: '5 h 16 slack',
    over: null,
  })
  expect(daySums(day([first], 1000)).over).toBe('40 min over the day')
})

test('stops whose hours overlap never drive backwards, and no clock shows twenty-eight o’clock', () => {
  // Somebody put a stop in by hand that lasts until 12:00, before one that is over at 10:30.
  const long = { ...first, arriveMin: 600, workMin: 120 }
  expect(daySums(day([long, second], 651)).driving).toBe('35 min driving')
  expect(daySums(day([first], 1689)).home).toBe('home 04:09 next day')
})

test('the first stop that is not finished is next', () => {
  const done = { ...first, visit: { id: 'v', finished: true } }
  expect([...stopStates([done, second]).values()]).toEqual(['done', 'next'])
  expect([...stopStates([{ ...first, visit: { id: 'v', finished: false } }, second]).values()]).toEqual(['next', 'later'])
})

test('parts of the stops that are left, counted', () => {
  expect(partsForDay([first, second])).toEqual([
    { partNumber: 'P-1', count: 2 },
    { partNumber: 'P-2', count: 1 },
    { partNumber: 'P-3', count: 1 },
  ])
  expect(partsForDay([{ ...first, visit: { id: 'v', finished: true } }])).toEqual([])
})

test('tasks in words', () => {
  expect(taskWords(first)).toBe('Change 1, 2 and 3')
  expect(taskWords({ ...second, tasks: [{ stageId: 'stage-1', action: 'wash' }] })).toBe('Wash 1')
  expect(taskWords({ ...first, tasks: [] })).toBe('Look and measure')
  const stages = first.system.stages.map((stage) => ({ ...stage, part: null }))
  expect(taskWords({ ...first, tasks: [], system: { ...first.system, stages } })).toBe('First visit: look at every stage and measure')
})
