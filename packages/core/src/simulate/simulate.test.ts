import fc from 'fast-check'
import {
  drawSite,
  gradeOf,
  lifeUsed,
  liveDay,
  newPart,
  readPart,
  runToEnd,
  runToMoment,
  type SimStage,
  seeded,
  trueDropKpa,
  USUAL_SPREAD,
  useOn,
} from '.'

const sediment: SimStage = { media: 'sediment', rated: { days: 183 }, wholeHouse: true, siteFactor: 1 }
const carbon: SimStage = { media: 'carbon-block', rated: { days: 365, litres: 2200 }, wholeHouse: false, siteFactor: 1 }
const none = { siteCv: 0, unitCv: 0, usageCv: 0 }
const calmTown = { source: 'municipal' as const, people: 3, chlorineMgL: 1, closed: [], guests: [], dirty: [], summer: 0 }

describe('chance', () => {
  test('same seed, same stream; a fork does not disturb it', () => {
    const [a, b] = [seeded(7), seeded(7)]
    expect(Array.from({ length: 5 }, () => a.uniform())).toEqual(Array.from({ length: 5 }, () => b.uniform()))
    expect(seeded(7).uniform()).not.toBe(seeded(8).uniform())
  })
  test('the normal has mean 0 and variance 1, the spread its median at 1 and its coefficient of variation', () => {
    const rng = seeded(1)
    const normals = Array.from({ length: 20_000 }, () => rng.normal())
    const mean = normals.reduce((sum, z) => sum + z, 0) / normals.length
    expect(Math.abs(mean)).toBeLessThan(0.03)
    expect(normals.reduce((sum, z) => sum + z * z, 0) / normals.length).toBeCloseTo(1, 1)
    const spread = Array.from({ length: 20_000 }, () => rng.spread(0.35)).sort((a, b) => a - b)
    expect(spread[10_000] as number).toBeCloseTo(1, 1)
  })
  test('a weighted pick keeps its weights', () => {
    const rng = seeded(3)
    const picks = Array.from({ length: 4000 }, () => rng.pick(['often', 'seldom'], [3, 1]))
    expect(picks.filter((one) => one === 'often').length / 4000).toBeCloseTo(0.75, 1)
  })
})

describe('a part in service', () => {
  test('without chance, carbon on reference water ends by its calendar or its litres, whichever comes first', () => {
    const rng = seeded(2)
    const site = drawSite(rng, none, 400, { ...calmTown, tapLitresPerDay: 10, houseLitresPerDay: 400 })
    // 2,200 L at 10 L a day is 220 days.
    expect(runToEnd(null, site, carbon, newPart(rng, site, carbon, none, 0), 0)).toBe(220)
    const frugal = { ...site, tapLitresPerDay: 3 }
    expect(runToEnd(null, frugal, carbon, newPart(rng, frugal, carbon, none, 0), 0)).toBe(365)
  })
  test('the drop stands 70 kPa over clean at the end of the pressure’s life', () => {
    const rng = seeded(4)
    const site = drawSite(rng, none, 400, { ...calmTown, houseLitresPerDay: 390, tapLitresPerDay: 9 })
    const part = newPart(rng, site, sediment, none, 0)
    const end = runToEnd(null, site, sediment, part, 0)
    expect(end).toBe(183)
    expect(trueDropKpa(sediment, part) - part.cleanKpa).toBeCloseTo(70, 6)
  })
  test('life used never falls, whatever happens', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100_000 }), (seed) => {
        const rng = seeded(seed)
        const site = drawSite(rng, USUAL_SPREAD, 800)
        const part = newPart(rng, site, sediment, USUAL_SPREAD, 0)
        let before = 0
        for (let day = 0; day < 60; day++) {
          liveDay(rng, site, sediment, part, day)
          expect(lifeUsed(part)).toBeGreaterThanOrEqual(before)
          before = lifeUsed(part)
        }
      }),
      { numRuns: 20 },
    )
  })
  test('a closed week draws nothing', () => {
    const site = drawSite(seeded(1), USUAL_SPREAD, 100, { ...calmTown, closed: [{ from: 10, to: 17, share: 0 }] })
    expect([9, 10, 16, 17].map((day) => useOn(site, day) > 0)).toEqual([true, false, false, true])
  })
})

describe('what is seen of it', () => {
  test('grades of a share of life: half used is light, twice used is spent', () => {
    const rng = seeded(9)
    const seen = (share: number) => new Set(Array.from({ length: 200 }, () => gradeOf(rng, share)))
    expect([...seen(0.1)]).toEqual(['as-new'])
    expect([...seen(0.5)]).toEqual(['light'])
    expect([...seen(2.5)]).toEqual(['spent'])
    expect(seen(1.1).has('heavy') && seen(1.1).has('as-expected')).toBe(true)
  })
  test('readings scatter about the truth, and about one drop in fifty is wild', () => {
    const rng = seeded(11)
    const site = drawSite(rng, none, 400, calmTown)
    const part = newPart(rng, site, sediment, none, 0)
    const drops = Array.from({ length: 3000 }, () => {
      const { inKpa = 0, outKpa = 0 } = readPart(rng, site, sediment, part, 0, false)
      return (inKpa - outKpa) / part.cleanKpa
    })
    const wild = drops.filter((ratio) => ratio > 2.5).length
    expect(wild / 3000).toBeGreaterThan(0.01)
    expect(wild / 3000).toBeLessThan(0.03)
  })
  test('a moment is told only what was known then; whether the part is over by then nobody knows', () => {
    for (let seed = 0; seed < 40; seed++) {
      const rng = seeded(seed)
      const site = drawSite(rng, USUAL_SPREAD, 3000)
      const moment = runToMoment(rng, site, carbon, USUAL_SPREAD, { everyDays: 60, counter: true, changes: 2, askAge: 90 })
      expect(moment.past).toHaveLength(2)
      expect(moment.readings.every(({ day }) => day <= moment.askDay)).toBe(true)
      expect(moment.endDay).toBeGreaterThan(moment.fittedDay)
    }
  })
})
