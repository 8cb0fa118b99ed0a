import { daysPastEnd, failureProbabilityAtAge } from './survival-curve'

// One hazard of a hundredth a day: S(t) = exp(−t/100).
const STEADY = { fittedOn: '2026-01-01', days: [0, 100, 200], survival: [1, Math.exp(-1), Math.exp(-2)] }

test.each([
  [0, 0],
  [50, 1 - Math.exp(-0.5)],
  [100, 1 - Math.exp(-1)],
  [150, 1 - Math.exp(-1.5)],
])('by %d days the chance of having ended is %d', (age, chance) => {
  expect(failureProbabilityAtAge(STEADY, age)).toBeCloseTo(chance, 12)
})

test.each([0, 1, 30, 100, 180])('changed after %d days, the days past the end are the integral of that chance', (age) => {
  // ∫ 1 − exp(−t/100) dt = age − 100 (1 − exp(−age/100)); at the middles of days within a thousandth of a day.
  expect(daysPastEnd(STEADY, age)).toBeCloseTo(age - 100 * (1 - Math.exp(-age / 100)), 2)
})

test('each day later adds at most a day past the end, and never takes one away', () => {
  for (let age = 1; age < 300; age += 7) {
    const more = daysPastEnd(STEADY, age + 1) - daysPastEnd(STEADY, age)
    expect(more).toBeGreaterThanOrEqual(0)
    expect(more).toBeLessThanOrEqual(1)
  }
})
