import { planRound, type RoundInput, type RoundVisit, roundCost, waysOut } from '.'
import { drawRound } from './drawn'

const visit = (id: string, more: Partial<RoundVisit> = {}): RoundVisit => ({
  id,
  place: 'a',
  serviceMin: 60,
  dueDay: 0,
  windowDays: [0, 0],
  latePerDay: 5,
  earlyPerDay: 1,
  ...more,
})
/** Three days from 8:00 to 16:00 with no overtime; a is ten minutes off. Evenness costs nothing here. */
const input = (visits: RoundVisit[], more: Partial<RoundInput> = {}): RoundInput => ({
  days: ['2026-03-02', '2026-03-03', '2026-03-04'],
  technicians: [{ id: 't', base: 'o', fromMin: 480, toMin: 960, overtimeMin: 0, skills: [], daysOff: [] }],
  places: [{ id: 'o' }, { id: 'a' }],
  travelMin: [
    [0, 10],
    [10, 0],
  ],
  visits,
  weights: { overtime: 2, unevenness: 0, change: 30 },
  seed: 1,
  ...more,
})
const ways = (given: RoundInput, id = 'x') =>
  waysOut(given, { days: planRound(given).days }, id).map(({ kind, day, total }) => [kind, day, total])

test('a shut day: the customer asked costs the drive, the next day a day’s risk more; the first is cheaper', () => {
  expect(ways(input([visit('x', { closedDays: [0] })]))).toEqual([
    ['shut-day', 0, 20],
    ['outside-window', 1, 25],
  ])
})

test('a full day: overtime at its price, or another day outside of the window', () => {
  // 460 minutes of the day's 480 are the other visit's, with 20 on the road: another hour is an hour of overtime, weighed twice.
  const full = input([visit('y', { serviceMin: 460, latePerDay: 100 }), visit('x', { latePerDay: 100 })])
  const found = ways(full, planRound(full).unplanned[0]?.visit)
  expect(found).toContainEqual(['overtime', 0, 120])
  expect(found).toContainEqual(['outside-window', 1, 120])
})

test('hours, a day off, a skill and a hold, each by itself', () => {
  expect(ways(input([visit('x', { open: [[960, 1080]] })]))).toEqual([
    ['other-hours', 0, 20],
    ['overtime', 0, 20 + 2 * 70],
  ])
  const off = input([visit('x')])
  const people = off.technicians.map((one) => ({ ...one, daysOff: [0] }))
  expect(ways({ ...off, technicians: people })).toEqual([
    ['day-off', 0, 20],
    ['outside-window', 1, 25],
  ])
  expect(ways(input([visit('x', { skills: ['wells'] })]))).toEqual([['skill', 0, 20]])
  expect(ways(input([visit('x', { windowDays: [0, 1], closedDays: [0], pinnedDay: 0 })]))).toContainEqual(['unpin', 1, 25])
})

test('what has a day, could have one, or is not there has no ways out', () => {
  const one = input([visit('x')])
  expect(ways(one)).toEqual([])
  expect(waysOut(one, { days: [] }, 'x')).toEqual([])
  expect(waysOut(one, { days: [] }, 'nobody')).toEqual([])
})

test('each way out is a plan that breaks no rule once the thing is given up, and costs what was said', () => {
  let [seen, tried] = [0, 0]
  for (let seed = 1; seed <= 30 && seen < 6; seed++) {
    const drawn = drawRound(seed, { visits: 16, days: 2, technicians: 1, rich: true })
    const plan = planRound(drawn, { iterations: 30 })
    for (const { visit: id } of plan.unplanned)
      for (const way of waysOut(drawn, plan, id)) {
        tried++
        if (way.kind !== 'outside-window') continue
        const visits = drawn.visits.map((one) => (one.id === id ? { ...one, windowDays: [0, drawn.days.length - 1] as const } : one))
        const days = plan.days.map(({ technician, day, stops }) => ({ technician, day, stops: stops.map(({ visit: own }) => own) }))
        const line = days.find((one) => one.technician === way.technician && one.day === way.day)
        if (line) line.stops.splice(way.at, 0, id)
        else days.push({ technician: way.technician, day: way.day, stops: [id] })
        const wider = { ...drawn, visits }
        const resumed = planRound(wider, {
          iterations: 0,
          from: {
            days: days.map((one) => ({ ...one, stops: one.stops.map((own) => ({ visit: own, arriveMin: 0, startMin: 0, leaveMin: 0 })) })),
          },
        })
        expect(roundCost(wider, resumed).broken).toEqual([])
        seen++
      }
  }
  expect(tried).toBeGreaterThan(0)
})
