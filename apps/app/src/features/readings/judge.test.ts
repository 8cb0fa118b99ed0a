import type { Schools } from '@evenround/contract/firm'
import type { HistoryDto } from '@evenround/contract/site'
import { stopWith, TODAY } from '../../testing/stop'
import { blocker, type Draft, EMPTY_DRAFT, judge, keptKey, type Meter, NOTHING_TYPED, USUAL_METER } from './judge'

const SCHOOLS: Schools = {
  change: 'earliest',
  membrane: 'fixed-floor',
  closing: 'hand-only',
  seals: 'reuse',
  order: 'one-at-a-time',
  tankWater: 'keep',
}
const HISTORY: HistoryDto = { untreatedMgL: [405, 409, 410], treatedMgL: [25, 26, 28], baselinePassage: 0.0617 }
const draft = (untreated: string, treated: string, more: Partial<Draft> = {}): Draft => ({
  ...EMPTY_DRAFT,
  untreated: { ...NOTHING_TYPED, text: untreated },
  treated: { ...NOTHING_TYPED, text: treated },
  ...more,
})
const look = (
  one: Draft,
  more: { meter?: Meter; schools?: Partial<Schools>; history?: HistoryDto; family?: Parameters<typeof stopWith>[0] } = {},
) =>
  judge(
    one,
    more.meter ?? USUAL_METER,
    stopWith(more.family ?? 'reverse-osmosis-5', [1]),
    more.history ?? HISTORY,
    { ...SCHOOLS, ...more.schools },
    TODAY,
    '.',
  )

test('412 in and 47 out: watch by the fixed floor, and what its own baseline would say', () => {
  const { membrane } = look(draft('412', '47'))
  expect(membrane?.result.verdict).toBe('watch')
  expect(membrane?.inForce).toContain('fixed floor')
  expect(membrane?.other).toContain('1.8 of 2.0')
})

test('by its own baseline, when that is the school; by the floor while no baseline is known', () => {
  expect(look(draft('412', '47'), { schools: { membrane: 'own-baseline' } }).membrane?.inForce).toContain('its own baseline')
  const none = look(draft('412', '47'), { schools: { membrane: 'own-baseline' }, history: { ...HISTORY, baselinePassage: null } })
  expect(none.membrane?.inForce).toContain('first readings are not known')
  expect(none.membrane?.limits).toMatchObject({ watch: 0.1, replace: 0.15 })
})

test('a tenfold slip is asked about; the mark or “keep” answers it, another number is asked about again', () => {
  const slip = look(draft('41', '47'))
  expect(slip.untreated.doubt?.offerTimesTen).toBe(true)
  expect(blocker(slip)).toContain('Answer the question')
  const typed = draft('41', '47')
  const marked = { ...typed, untreated: { ...typed.untreated, timesTen: true } }
  expect(look(marked).untreated.doubt).toBeNull()
  expect(look(marked).untreated.result?.tdsMgL).toBe(410)
  const kept = { ...typed, untreated: { ...typed.untreated, kept: keptKey(typed.untreated) } }
  expect(blocker(look(kept))).toBeNull()
  expect(look({ ...kept, untreated: { ...kept.untreated, text: '42' } }).untreated.doubt).not.toBeNull()
})

test('too high by ten is asked about as well, without offering the mark', () => {
  expect(look(draft('4.1k', '25')).untreated.doubt).toMatchObject({ offerTimesTen: false })
})

test.each([
  ['', '47', 'Enter both readings'],
  ['abc', '47', 'cannot be read'],
  ['-4', '47', 'cannot be read'],
  ['412 psi', '47', 'cannot be read'],
  ['999k', '47', 'cannot be read'],
])('%j and %j: %s', (untreated, treated, words) => {
  expect(blocker(look(draft(untreated, treated)))).toContain(words)
})

test('temperature is checked, and corrects a meter that does not', () => {
  expect(blocker(look(draft('412', '28', { temperature: '130' })))).toContain('cannot be read')
  const meter: Meter = { quantity: 'ec', scale: 0.64, compensated: false }
  expect(look(draft('412', '28', { temperature: '11' }), { meter }).untreated.result?.tdsMgL).toBeCloseTo(366.2222, 4)
})

test('a resin is judged by what it has taken up, a carbon set only recorded', () => {
  const resin = look(draft('180', '12'), { family: 'pure-water', history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null } })
  expect(resin.resin?.result.verdict).toBe('past-target')
  expect(resin.membrane).toBeNull()
  const carbon = look(draft('210', '208'), { family: 'under-sink-3', history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null } })
  expect([carbon.membrane, carbon.resin]).toEqual([null, null])
})
