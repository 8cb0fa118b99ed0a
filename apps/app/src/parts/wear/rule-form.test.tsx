import { USUAL_RULE } from '@evenround/core/wear'
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { show } from '../../testing/screen'
import { RuleForm, readRule } from './rule-form'
import { previewText, ruleText } from './rule-words'

afterEach(cleanup)

const PREVIEW = { looked: 100, earlier: 63, later: 12, medianShiftDays: -9.4 }
const PLACE = { level: 'site' as const, about: 'site' }

test('a contract without months is said at its field and nothing is sent; with them it is sent as it was chosen', async () => {
  const done: number[] = []
  const { asked } = show(<RuleForm place={PLACE} rule={USUAL_RULE} takeBack={null} onDone={() => done.push(1)} />, {
    'POST /api/due-rules/preview': PREVIEW,
    'PUT /api/due-rules': { ok: true },
  })
  expect(
    await screen.findByText(/^Of the next 100 due days 63 come earlier and 12 later\. The middle one moves 9 days earlier\./),
  ).toBeTruthy()
  fireEvent.click(screen.getByRole('radio', { name: 'By contract' }))
  fireEvent.click(screen.getByRole('button', { name: 'Save the rule' }))
  expect(screen.getByText('A whole number of months, 1 to 240')).toBeTruthy()
  expect(asked.some(({ method }) => method === 'PUT')).toBe(false)
  fireEvent.change(screen.getByLabelText('Every'), { target: { value: '6' } })
  fireEvent.click(screen.getByRole('button', { name: 'Save the rule' }))
  await waitFor(() => expect(done).toEqual([1]))
  expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({
    ...PLACE,
    rule: { by: 'contract', months: 6, anchor: null, care: 'as-label', beyondLabel: false },
  })
})

test('what was chosen can be taken back; what the server refuses is said and the form stays', async () => {
  const message = 'There is no such site here.'
  const { asked } = show(<RuleForm place={PLACE} rule={USUAL_RULE} takeBack="As the firm has it" onDone={() => undefined} />, {
    'POST /api/due-rules/preview': PREVIEW,
    'PUT /api/due-rules': { error: { code: 'NOT_FOUND', message, retryable: false } },
  })
  fireEvent.click(await screen.findByRole('button', { name: 'As the firm has it' }))
  expect(await screen.findByText(message)).toBeTruthy()
  expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ ...PLACE, rule: null })
})

const typed = (more: object) => ({
  by: 'contract' as const,
  months: '12',
  anchor: '',
  care: 'as-label' as const,
  beyondLabel: true,
  ...more,
})
test.each([
  [typed({}), { by: 'contract', months: 12, anchor: null, care: 'as-label', beyondLabel: false }],
  [typed({ anchor: ' 2026-05-01 ' }), { by: 'contract', months: 12, anchor: '2026-05-01', care: 'as-label', beyondLabel: false }],
  [typed({ months: '0' }), { wrong: 'months' }],
  [typed({ months: '2.5' }), { wrong: 'months' }],
  [typed({ anchor: 'May' }), { wrong: 'anchor' }],
  [typed({ by: 'label' }), { by: 'label', months: null, anchor: null, care: 'as-label', beyondLabel: false }],
  [typed({ by: 'evidence', care: 'careful' }), { by: 'evidence', months: null, anchor: null, care: 'careful', beyondLabel: true }],
])('%j is read as %j', (one, rule) => expect(readRule(one)).toEqual(rule))

test('rules and previews in words', () => {
  expect(ruleText({ ...USUAL_RULE, by: 'contract', months: 12, anchor: '2026-05-01' }, '2026-11-25')).toBe(
    'contract of 1 year, counted from 1 May',
  )
  expect(ruleText({ ...USUAL_RULE, care: 'sparing', beyondLabel: true }, '2026-11-25')).toBe(
    'by the evidence, sparing, past the label where it may',
  )
  expect(previewText({ looked: 0, earlier: 0, later: 0, medianShiftDays: 0 })).toMatch(/^Nothing that is due/)
  expect(previewText({ looked: 1, earlier: 0, later: 1, medianShiftDays: 30 })).toBe('The next due day comes 30 days later.')
  expect(previewText({ looked: 40, earlier: 0, later: 0, medianShiftDays: 0 })).toBe('Of the next 40 due days none moves.')
  expect(previewText({ looked: 40, earlier: 3, later: 0, medianShiftDays: 0 })).toContain('Half of them or more stay.')
})
