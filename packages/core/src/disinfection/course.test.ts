import fc from 'fast-check'
import { chlorineAhead, chlorineBetween, contact } from '.'

const STRIPS = [
  { minute: 0, mgL: 80 },
  { minute: 120, mgL: 20 },
]

test('between two strips it falls by the same share in the same time', () => {
  // 80 to 20 in two hours: half in one.
  expect(chlorineBetween(STRIPS, 60)).toBeCloseTo(40, 9)
  expect(chlorineBetween(STRIPS, 0)).toBe(80)
  expect(chlorineBetween(STRIPS, 121)).toBeNull()
  expect(
    chlorineBetween(
      [
        { minute: 0, mgL: 5 },
        { minute: 9, mgL: 0 },
      ],
      4,
    ),
  ).toBe(0)
})

test('after the last strip the last decay goes on; before a second one nothing is known to fall', () => {
  const { decayPerHour } = contact({ strips: STRIPS, targetMgL: 80, minimumHours: 12 })
  expect(chlorineAhead(STRIPS, { decayPerHour }, 180)).toBeCloseTo(10, 9)
  expect(chlorineAhead([{ minute: 0, mgL: 80 }], null, 600)).toBe(80)
  expect(chlorineAhead([], null, 5)).toBe(0)
})

test('the area under the drawn curve is the contact that is counted', () => {
  fc.assert(
    fc.property(
      fc.double({ min: 1, max: 200, noNaN: true }),
      fc.double({ min: 1, max: 200, noNaN: true }),
      fc.integer({ min: 30, max: 900 }),
      (a, b, end) => {
        const strips = [
          { minute: 0, mgL: a },
          { minute: end, mgL: b },
        ]
        const { achievedMgMinL } = contact({ strips, targetMgL: 50, minimumHours: 1 })
        const slices = 400
        let area = 0
        for (let index = 0; index < slices; index++) area += ((chlorineBetween(strips, ((index + 0.5) * end) / slices) ?? 0) * end) / slices
        expect(Math.abs(area / achievedMgMinL - 1)).toBeLessThan(1e-4)
      },
    ),
  )
})
