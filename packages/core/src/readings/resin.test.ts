import fc from 'fast-check'
import { type ResinInput, resin } from '.'

const bed: ResinInput = { inTdsMgL: 180, outTdsMgL: 1, targetTdsMgL: 10, resinL: 18, litresSinceFill: 2000, litresPerDay: 50 }

test('the published example: 18 L at 180 mg/L holds 2,750 L', () => {
  const { capacityL, usedFraction, litresLeft, daysLeft, verdict } = resin(bed)
  expect(capacityL).toBeCloseTo(2750, 9)
  expect(usedFraction).toBeCloseTo(0.72727, 5)
  expect(litresLeft).toBeCloseTo(750, 9)
  expect(daysLeft).toBeCloseTo(15, 9)
  expect(verdict).toBe('good')
})

test.each([
  [10, 'good'],
  [10.1, 'past-target'],
  [170.9, 'past-target'],
  [171, 'exhausted'],
  [180, 'exhausted'],
] as const)('%d mg/L after it is %s', (outTdsMgL, verdict) => {
  expect(resin({ ...bed, outTdsMgL }).verdict).toBe(verdict)
})

test('exhausted comes before a target that lies above the feed', () => {
  expect(resin({ ...bed, outTdsMgL: 175, targetTdsMgL: 500 }).verdict).toBe('exhausted')
})

test('nothing left is 0 and not less; nothing drawn has no days', () => {
  expect(resin({ ...bed, litresSinceFill: 9000 })).toMatchObject({ litresLeft: 0, daysLeft: 0 })
  expect(resin({ ...bed, litresPerDay: 0 }).daysLeft).toBeNull()
})

test('capacity grows with resin and shrinks with the water', () => {
  fc.assert(
    fc.property(fc.double({ min: 1, max: 1000, noNaN: true }), fc.double({ min: 0.1, max: 100, noNaN: true }), (inTdsMgL, resinL) => {
      const one = resin({ ...bed, inTdsMgL, resinL }).capacityL
      expect(resin({ ...bed, inTdsMgL, resinL: resinL * 2 }).capacityL / one).toBeCloseTo(2, 9)
      expect(resin({ ...bed, inTdsMgL: inTdsMgL * 2, resinL }).capacityL / one).toBeCloseTo(0.5, 9)
    }),
  )
})

test('water without dissolved matter is refused', () => {
  expect(() => resin({ ...bed, inTdsMgL: 0 })).toThrow('inTdsMgL must be over 0, got 0')
})
