import type { VisitOutcome } from '@evenround/core/visit'
import { say } from '@evenround/core/words'

export const OUTCOMES: readonly { value: VisitOutcome; label: string }[] = [
  { value: 'done', label: say`Done` },
  { value: 'partly-done', label: say`Partly done` },
  { value: 'not-right', label: say`Not right yet` },
  { value: 'nobody-home', label: say`Nobody home` },
  { value: 'part-missing', label: say`Part missing` },
]
export const OUTCOME_WORDS = Object.fromEntries(OUTCOMES.map(({ value, label }) => [value, label])) as Record<VisitOutcome, string>
