import type { Schools } from '@evenround/contract/firm'

/** A question about one school, with the answers that it may have. */
interface QuestionOf<K extends keyof Schools> {
  key: K
  label: string
  why: string
  options: readonly { value: NonNullable<Schools[K]>; label: string }[]
}
type Question = { [K in keyof Schools]-?: QuestionOf<K> }[keyof Schools]

const question = <K extends keyof Schools>(key: K, label: string, why: string, options: QuestionOf<K>['options']): QuestionOf<K> => ({
  key,
  label,
  why,
  options,
})

/** Where good practitioners disagree: the choices, and why one would choose the other. */
export const SCHOOL_QUESTIONS: readonly Question[] = [
  question(
    'change',
    'When to change',
    'Calendar is easy to explain; litres and condition follow what really happens; the earliest of all misses nothing.',
    [
      { value: 'earliest', label: 'Earliest of all' },
      { value: 'calendar', label: 'Calendar' },
      { value: 'usage', label: 'Usage' },
      { value: 'condition', label: 'Condition' },
    ],
  ),
  question(
    'membrane',
    'When a membrane is done',
    'A fixed floor treats all alike; its own first readings tell a slow start from a real decline.',
    [
      { value: 'fixed-floor', label: 'Fixed floor' },
      { value: 'own-baseline', label: 'Own baseline' },
    ],
  ),
  question(
    'closing',
    'Closing a housing',
    'Large sumps may want up to a quarter turn with the wrench; as tight as it will go ruins the seal.',
    [
      { value: 'hand-only', label: 'By hand' },
      { value: 'hand-and-quarter-turn', label: 'Hand, then quarter turn' },
    ],
  ),
  question(
    'place',
    'Where the work is done',
    'In place nothing is unplumbed; at the bench the set comes off by named lines and is seen from all sides.',
    [
      { value: 'in-place', label: 'In place' },
      { value: 'at-the-bench', label: 'At the bench' },
    ],
  ),
  question('seals', 'Seals', 'Inspected and greased they last for years; new ones at every change leave nothing to judge.', [
    { value: 'reuse', label: 'Inspect and reuse' },
    { value: 'new', label: 'New every time' },
  ]),
  question('order', 'One at a time or all out', 'One open position at a time cannot be mixed up; all out is quicker at a sink.', [
    { value: 'one-at-a-time', label: 'One at a time' },
    { value: 'all-out', label: 'All out' },
  ]),
  question('tankWater', 'The storage tank at a change', 'Its water can flush the post carbon; drained it starts fresh.', [
    { value: 'keep', label: 'Keep its water' },
    { value: 'drain', label: 'Drain it' },
  ]),
]
