import { addDays } from '../units'
import { type DueRule, hindsightOf, type Served, stateOn, summarise, type WearInput } from '.'

const FROM = '2024-01-01'
const TO = '2026-01-01'
const input = (fittedOn: string, more: Partial<WearInput> = {}): WearInput => ({
  today: TO,
  stage: { media: 'fluoride-media', fittedOn, rated: { days: 365 }, site: { people: 3, source: 'municipal' } },
  readings: [],
  past: [],
  school: 'earliest',
  ...more,
})
const served = (fittedOn: string, removedOn: string | null): Served => {
  const one = { ...input(fittedOn), today: removedOn ?? TO }
  return { input: one, hindsight: one, removedOn }
}
const months = (count: number): DueRule => ({ by: 'contract', months: count })

test('one stage for two years: 24 changes by the month, four by six months, a shorter rule never later past the end', () => {
  const told = hindsightOf({ served: [served(FROM, null)], rules: [months(1), months(6), months(12), months(24)], from: FROM, to: TO })
  const [one, six, year, two] = told.rules as [(typeof told.rules)[number], ...(typeof told.rules)[number][]]
  // 731 days over 31, 182, 366 and 731.
  expect(told.rules.map(({ parts }) => Math.round(parts * 100) / 100)).toEqual([23.58, 4.02, 2, 1])
  expect(one.lateDays).toBeLessThan(six?.lateDays ?? 0)
  expect(six?.lateDays).toBeLessThan(year?.lateDays ?? 0)
  expect(year?.lateDays).toBeLessThan(two?.lateDays ?? 0)
  // Twice its median life: about a year past the end.
  expect(Math.abs((two?.lateDays ?? 0) - 365)).toBeLessThan(30)
  expect(two?.lateSpread).toBeGreaterThan(30)
})

test('what was done: parts that came out in the stretch, and only the days past the end that lie in it', () => {
  const early = addDays(FROM, -400)
  const before = served(early, addDays(FROM, 10))
  const { done } = hindsightOf({ served: [before, served(addDays(FROM, 10), null)], rules: [], from: FROM, to: TO })
  expect(done.parts).toBe(1)
  const whole = hindsightOf({ served: [before], rules: [], from: early, to: TO }).done
  const part = hindsightOf({ served: [before], rules: [], from: FROM, to: TO }).done
  expect(part.lateDays).toBeGreaterThan(0)
  // Ten of the days on which it stood over its end at the most.
  expect(part.lateDays).toBeLessThanOrEqual(10)
  expect(whole.lateDays).toBeGreaterThan(part.lateDays)
})

test('what lies outside of the stretch, and what nothing rates, counts for nothing', () => {
  const out = served(addDays(FROM, -900), addDays(FROM, -500))
  const bare = { ...served(FROM, null), hindsight: { ...input(FROM), stage: { ...input(FROM).stage, rated: {} } } }
  expect(hindsightOf({ served: [out, bare], rules: [months(6)], from: FROM, to: TO })).toEqual({
    done: { parts: 0, lateDays: 0, lateSpread: 0 },
    rules: [{ parts: 0, lateDays: 0, lateSpread: 0 }],
  })
})

test('a stored day to change is read on a later day as it would be worked out then', () => {
  const fresh = input('2026-01-01', { today: '2026-01-01' })
  for (const rule of [months(6), { by: 'label' }, { by: 'evidence' }] as DueRule[]) {
    const stored = summarise({ input: fresh, rule })?.due
    if (!stored) throw new Error('nothing rated')
    for (let day = 0; day < 900; day += 13) {
      const today = addDays('2026-01-01', day)
      const now = summarise({ input: { ...fresh, today }, rule })?.due
      expect([today, stateOn(stored, today)]).toEqual([today, now?.state])
      expect(now?.due).toBe(stored.due)
    }
  }
})
