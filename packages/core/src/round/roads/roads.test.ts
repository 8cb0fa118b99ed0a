import fc from 'fast-check'
import { mulberry32 } from '../../random'
import { journeysFrom, NOT_TODAY_MIN, netOf, type Roads, sailingOf, travelAmong, travelOver } from '.'

const place = (id: string) => ({ id, name: id, island: id, lon: 0, lat: 0 })
/** a to b ten minutes by road; a ferry from b to c at 09:00 and 11:00, twenty minutes, aboard five minutes before. */
const SMALL: Roads = {
  places: ['a', 'b', 'c'].map(place),
  roads: [{ from: 'a', to: 'b', minutes: 10 }],
  ferries: [
    { from: 'b', to: 'c', minutes: 20, boardMin: 5, departures: [660, 540] },
    { from: 'c', to: 'b', minutes: 20, boardMin: 5, departures: [570, 690] },
  ],
}

test('a drive waits for its sailing, and the last ferry is the last', () => {
  const net = netOf(SMALL)
  // 08:45 at the slip is in time for 09:00; 08:46 from a is not, and waits for 11:00.
  expect(journeysFrom(net, 0, 525)[2]).toEqual({ arriveMin: 560, sailsMin: 540, via: ['a', 'b', 'c'] })
  expect(journeysFrom(net, 0, 526)[2]).toMatchObject({ arriveMin: 680, sailsMin: 660 })
  expect(journeysFrom(net, 0, 646)[2]).toBeNull()
  expect(journeysFrom(net, 0, 800)[1]).toEqual({ arriveMin: 810, sailsMin: null, via: ['a', 'b'] })
})

test('the hours: a quarter counts its longest drive, and what does not get there says so', () => {
  const travel = travelOver(SMALL, { fromMin: 480, toMin: 720 })
  const at = (minute: number): number =>
    (travel.travelByHour.findLast(({ fromMin }) => fromMin <= minute)?.travelMin ?? travel.travelMin)[0]?.[2] as number
  // 08:15 leaves 65 minutes to the other side at 09:20.
  expect(at(495)).toBe(65)
  // Within 08:45 to 09:00 all but the first minute miss the nine o'clock: 08:46 waits until 11:20.
  expect(at(525)).toBe(154)
  expect(at(660)).toBe(NOT_TODAY_MIN)
  expect(sailingOf(travel, 'a', 'c', 495)).toBe(540)
  expect(sailingOf(travel, 'a', 'c', 530)).toBe(660)
  expect(sailingOf(travel, 'a', 'b', 530)).toBeNull()
})

test('between some of the places everything takes as long as before', () => {
  const travel = travelOver(SMALL, { fromMin: 480, toMin: 720 })
  const some = travelAmong(travel, ['c', 'a'])
  expect(some.places).toEqual(['c', 'a'])
  expect(some.travelMin).toEqual([
    [0, travel.travelMin[2]?.[0]],
    [travel.travelMin[0]?.[2], 0],
  ])
  for (const departMin of [490, 530, 700]) {
    expect(sailingOf(some, 'a', 'c', departMin)).toBe(sailingOf(travel, 'a', 'c', departMin))
    expect(sailingOf(some, 'c', 'a', departMin)).toBe(sailingOf(travel, 'c', 'a', departMin))
  }
})

test('a causeway is waited for at high water', () => {
  const net = netOf({
    ...SMALL,
    ferries: [],
    roads: [
      {
        from: 'a',
        to: 'b',
        minutes: 14,
        open: [
          [330, 600],
          [720, 900],
        ],
      },
    ],
  })
  expect(journeysFrom(net, 0, 600)[1]?.arriveMin).toBe(614)
  expect(journeysFrom(net, 1, 601)[0]?.arriveMin).toBe(734)
  expect(journeysFrom(net, 0, 901)[1]).toBeNull()
})

test('a road to nowhere is said with its name', () => {
  expect(() => netOf({ ...SMALL, roads: [{ from: 'a', to: 'z', minutes: 1 }] })).toThrow('got z')
})

test('leaving later never gets there earlier, and the way over a third place is never quicker', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 10_000 }), (seed) => {
      const random = mulberry32(seed)
      const ids = ['a', 'b', 'c', 'd', 'e']
      const any = (): string => ids[Math.floor(random() * ids.length)] as string
      const net = netOf({
        places: ids.map(place),
        roads: Array.from({ length: 4 }, () => ({ from: any(), to: any(), minutes: 1 + Math.floor(random() * 40) })),
        ferries: Array.from({ length: 3 }, () => ({
          from: any(),
          to: any(),
          minutes: 5 + Math.floor(random() * 30),
          boardMin: 5,
          departures: Array.from({ length: 4 }, () => 480 + Math.floor(random() * 400)),
        })),
      })
      const first = 480 + Math.floor(random() * 300)
      for (let from = 0; from < ids.length; from++) {
        const [early, late] = [journeysFrom(net, from, first), journeysFrom(net, from, first + 17)]
        for (let to = 0; to < ids.length; to++) {
          const [one, other] = [early[to], late[to]]
          if (other) expect(one?.arriveMin ?? Number.POSITIVE_INFINITY).toBeLessThanOrEqual(other.arriveMin)
          if (!one) continue
          const onwards = journeysFrom(net, to, one.arriveMin)
          for (let beyond = 0; beyond < ids.length; beyond++)
            if (onwards[beyond]) expect(early[beyond]?.arriveMin).toBeLessThanOrEqual(onwards[beyond]?.arriveMin ?? 0)
        }
      }
    }),
    { numRuns: 100 },
  )
})
