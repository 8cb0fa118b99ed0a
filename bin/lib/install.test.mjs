import { packagesThere } from './install.mjs'

const numbers = (text) => (/^(\d+) of (\d+) are there$/.exec(text) ?? []).slice(1).map(Number)

test('where packages are installed all of them are there, and the program wants fewer than its tests', () => {
  const [all, wantedAll] = numbers(packagesThere(true)())
  const [some, wantedSome] = numbers(packagesThere(false)())
  expect([all, some]).toEqual([wantedAll, wantedSome])
  expect(wantedSome).toBeLessThan(wantedAll)
  expect(wantedSome).toBeGreaterThan(300)
})
