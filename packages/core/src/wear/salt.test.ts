import { saltDays } from '.'

const water = { litresPerDay: 390, hardnessMgL: 300 }
test('what it used since it was last full says how long the next filling lasts', () =>
  // 18 kg in 60 days are 0.3 a day: 20 usable kilograms last 67.
  expect(saltDays({ ...water, filledKg: 18, daysSince: 60 })).toBe(67))
test('before anybody knows, the water’s hardness does', () =>
  // 390 L × 300 mg/L are 117 g a day, over 0.48: 244 g of salt; 20 kg last 82 days.
  expect(saltDays({ ...water, filledKg: 18, daysSince: null })).toBe(82))
test('never within the week, never past a year', () => {
  expect(saltDays({ ...water, filledKg: 25, daysSince: 2 })).toBe(7)
  expect(saltDays({ ...water, filledKg: 0.5, daysSince: 300 })).toBe(365)
})
