import fc from 'fast-check'
import { membrane, membraneBy } from './membrane'

const floor = { kind: 'fixed-floor' } as const

test('47 of 412 mg/L passes 11.4 %: watch', () => {
  const { passage, rejection, verdict, why } = membrane({ feedTdsMgL: 412, productTdsMgL: 47, school: floor })
  expect(passage).toBeCloseTo(0.1140777, 7)
  expect(rejection).toBeCloseTo(0.8859223, 7)
  expect(verdict).toBe('watch')
  expect(why).toContain('11.4 %')
})

test.each([
  [400, 40, 'good'],
  [400, 40.1, 'watch'],
  [400, 60, 'watch'],
  [400, 60.1, 'replace'],
  [400, 360, 'suspect'],
  [400, 359, 'replace'],
  [19.9, 1, 'suspect'],
  [20, 1, 'good'],
] as const)('fixed floor: %d in, %d out is %s', (feedTdsMgL, productTdsMgL, verdict) => {
  expect(membrane({ feedTdsMgL, productTdsMgL, school: floor }).verdict).toBe(verdict)
})

test.each([
  [36, 'good'],
  [36.1, 'watch'],
  [48, 'watch'],
  [48.1, 'replace'],
] as const)('own baseline 6 %%: %d of 400 is %s', (productTdsMgL, verdict) => {
  expect(membrane({ feedTdsMgL: 400, productTdsMgL, school: { kind: 'own-baseline', baselinePassage: 0.06 } }).verdict).toBe(verdict)
})

test('a feed of 0 gives no passage and a suspicion', () => {
  const result = membrane({ feedTdsMgL: 0, productTdsMgL: 3, school: floor })
  expect(result).toMatchObject({ passage: null, rejection: null, verdict: 'suspect' })
  expect(result.why.length).toBeGreaterThan(10)
})

test('more dissolved matter coming through never makes the verdict better', () => {
  const rank = { good: 0, watch: 1, replace: 2, suspect: 3 }
  fc.assert(
    fc.property(
      fc.double({ min: 20, max: 3000, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 0, max: 1, noNaN: true }),
      (feedTdsMgL, a, b) => {
        const of = (share: number) => rank[membrane({ feedTdsMgL, productTdsMgL: share * feedTdsMgL, school: floor }).verdict]
        expect(of(Math.max(a, b))).toBeGreaterThanOrEqual(of(Math.min(a, b)))
      },
    ),
  )
})

test('a firm judges by its own baselines where they are known, by the fixed floor where they are not', () => {
  const reading = { feedTdsMgL: 400, productTdsMgL: 24 }
  // 6 % of the feed: good by the floor; twice the 3 % it began with.
  const own = membraneBy('own-baseline', 0.03, reading)
  expect(own).toMatchObject({ by: 'own-baseline', limits: { baseline: 0.03 }, result: { verdict: 'watch' } })
  expect([own.limits.watch, own.limits.replace, own.ofBaseline].map((one) => Math.round(Number(one) * 1e6) / 1e6)).toEqual([0.045, 0.06, 2])
  expect(membraneBy('own-baseline', null, reading)).toMatchObject({
    by: 'fixed-floor',
    limits: { watch: 0.1, replace: 0.15, baseline: null },
    result: { verdict: 'good' },
    ofBaseline: null,
  })
  expect(membraneBy('fixed-floor', 0.03, reading).by).toBe('fixed-floor')
})
