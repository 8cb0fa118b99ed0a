import { learnedMinutes } from '.'

test('nobody’s visits: the usual minutes', () => expect(learnedMinutes(30, [])).toEqual({ minutes: 30, from: 0 }))
test('one visit moves it by a fifth of the way, five go all of it, however long one of them took', () => {
  // 30 and a median of 40: 30 + 10/5.
  expect(learnedMinutes(30, [40])).toEqual({ minutes: 32, from: 1 })
  expect(learnedMinutes(30, [38, 42, 40])).toEqual({ minutes: 36, from: 3 })
  expect(learnedMinutes(30, [38, 41, 40, 39, 300])).toEqual({ minutes: 40, from: 5 })
  expect(learnedMinutes(30, Array(9).fill(24))).toEqual({ minutes: 24, from: 9 })
})
