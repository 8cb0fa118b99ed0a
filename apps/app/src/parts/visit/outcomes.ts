import type { VisitOutcome } from '@evenround/core/visit'

export const OUTCOMES: readonly { value: VisitOutcome; label: string }[] = [
  { value: 'done', label: 'Done' },
  { value: 'partly-done', label: 'Partly done' },
  { value: 'not-right', label: 'Not right yet' },
  { value: 'nobody-home', label: 'Nobody home' },
  { value: 'part-missing', label: 'Part missing' },
]
export const OUTCOME_WORDS = Object.fromEntries(OUTCOMES.map(({ value, label }) => [value, label])) as Record<VisitOutcome, string>
