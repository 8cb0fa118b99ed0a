import fc from 'fast-check'
import { spotsToday, type TodayLine, type TodayStop } from '.'

/** Places on a line, a minute a kilometre. */
const KM: Record<string, number> = { base: 0, near: 10, far: 40, new: 12 }
const drive = (from: string, to: string): number => Math.abs((KM[from] ?? 0) - (KM[to] ?? 0))
const stop = (id: string, promise: TodayStop['promise'] = null): TodayStop => ({ id, place: id, workMin: 30, promise })
const LINE: TodayLine = { from: 'base', freeMin: 600, base: 'base', toMin: 960, stops: [stop('near'), stop('far')] }

test('it goes where it lies on the way: after the near one, before the far one, and costs no drive', () => {
  const [best] = spotsToday(LINE, stop('new'), drive)
  // 10:00 off; 10:10 near, 10:40 off, two minutes to the new one.
  expect(best).toMatchObject({ at: 1, arriveMin: 642, extraDriveMin: 0, overtimeMin: 0, late: [], costMin: 0 })
  // 11:12 off, 28 to the far one, half an hour, forty home.
  expect(best?.homeMin).toBe(672 + 28 + 30 + 40)
})

test('a promise that it would break makes another place cheaper, and is said', () => {
  const promised = { ...LINE, stops: [stop('near'), stop('far', [660, 672])] }
  const spots = spotsToday(promised, stop('new'), drive)
  // On the way it would bring them to the far one at 11:40, 28 minutes late: afterwards nobody waits.
  expect(spots[0]).toMatchObject({ at: 2, late: [], extraDriveMin: 0 })
  expect(spots.find(({ at }) => at === 1)).toMatchObject({ late: [{ id: 'far', byMin: 28 }], costMin: 140 })
})

test('what runs over the day is counted twice', () => {
  const short = { ...LINE, toMin: 730 }
  // Home at 12:20 without it, ten minutes over; half an hour more of work with it.
  expect(spotsToday(short, stop('new'), drive)[0]).toMatchObject({ homeMin: 770, overtimeMin: 30, costMin: 60 })
})

test('every place is offered once, and nothing else of the day changes its order', () => {
  const places = ['base', 'near', 'far', 'new']
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...places), { maxLength: 6 }), fc.constantFrom(...places), (line, place) => {
      const stops = line.map((at, index): TodayStop => ({ id: `s${index}`, place: at, workMin: 20, promise: null }))
      const spots = spotsToday({ ...LINE, stops }, { id: 'new', place, workMin: 20, promise: null }, drive)
      expect(spots.map(({ at }) => at).sort((a, b) => a - b)).toEqual([...stops.keys(), stops.length])
      for (const { legs } of spots) {
        expect(legs.map(({ id }) => id).filter((id) => id !== 'new')).toEqual(stops.map(({ id }) => id))
        legs.slice(1).forEach(({ leaveMin }, index) => void expect(leaveMin).toBeGreaterThanOrEqual((legs[index]?.arriveMin ?? 0) + 20))
      }
      // A detour is never shorter than no detour.
      for (const { extraDriveMin } of spots) expect(extraDriveMin).toBeGreaterThanOrEqual(0)
    }),
    { numRuns: 100 },
  )
})
