import type { TodayDto } from '@evenround/contract/site'
import { dueWith } from '../../testing/due'
import { stopWith, TODAY } from '../../testing/stop'
import { lateness } from './late'

const first = stopWith('under-sink-3', [1, 2], { id: 'a', leaveMin: 480, arriveMin: 500, workMin: 60 })
const second = stopWith('two-large', [1], { id: 'b', order: 2, leaveMin: 560, arriveMin: 580, workMin: 40, travelMin: 20 })
const third = stopWith('two-large', [1], { id: 'c', order: 3, leaveMin: 620, arriveMin: 640, workMin: 40, travelMin: 20 })
const day = (stops: TodayDto['stops'], toMin = 700): TodayDto => ({
  day: TODAY,
  timeZone: 'UTC',
  fromMin: 480,
  toMin,
  homeMin: 700,
  stops,
  late: { spent: 0, overdue: 0 },
  publication: null,
})

test('a day that keeps says nothing; one that is behind and still ends in time neither', () => {
  expect(lateness(day([first, second, third]), 480)).toBeNull()
  expect(lateness(day([first, second, third], 900), 520)).toBeNull()
  expect(lateness(day([first, second, third]), 1200)).toBeNull()
})

test('not left yet at 8:40 where 8:00 was planned: forty minutes behind and over, and what can wait saves its hour', () => {
  const late = lateness(day([first, second, third]), 520)
  expect(late).toMatchObject({ behindMin: 40, homeMin: 740, overMin: 40 })
  expect(late?.canWait?.savesMin).toBe(60)
})

test('at work past its planned end: what is begun is not put off, nor what is promised or hangs on a job', () => {
  const begun = { ...first, visit: { id: 'v', finished: false } }
  const late = lateness(day([begun, { ...second, promised: true }, third]), 600)
  expect(late).toMatchObject({ behindMin: 40, canWait: { id: 'c' } })
  const none = lateness(
    day([begun, { ...second, promised: true }, { ...third, job: { id: 'j', day: 'dose', notBefore: null, notAfter: null } }]),
    600,
  )
  expect(none?.canWait).toBeNull()
})

test('a promise that would be missed is named', () => {
  const promised = { ...second, promised: true, promise: [570, 600] as [number, number] }
  expect(lateness(day([first, promised], 900), 520)?.broken).toEqual([second.site.name])
  expect(lateness(day([{ ...first, visit: { id: 'v', finished: true } }], 700), 900)).toBeNull()
})

test('what is spent cannot wait, however far its window reaches: the other stop is offered, with its day', () => {
  const late = (state: 'spent' | 'good') => ({
    ...third,
    system: {
      ...third.system,
      stages: third.system.stages.map((stage) => ({ ...stage, due: dueWith({ state, windowTo: '2027-06-01' }) })),
    },
  })
  expect(lateness(day([first, second, late('good')]), 520)?.canWait).toMatchObject({ id: 'c', until: '2027-06-01' })
  expect(lateness(day([first, second, late('spent')]), 520)?.canWait).toMatchObject({ until: '2027-03-01' })
  expect(lateness(day([late('spent')]), 680)?.canWait).toMatchObject({ id: 'c', until: null })
})
