import type { Schools } from '@evenround/contract/firm'
import { say } from '@evenround/core/words'

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
    say`When to change`,
    say`Calendar is easy to explain; litres and condition follow what really happens; the earliest of all misses nothing.`,
    [
      { value: 'earliest', label: say`Earliest of all` },
      { value: 'calendar', label: say`Calendar` },
      { value: 'usage', label: say`Usage` },
      { value: 'condition', label: say`Condition` },
    ],
  ),
  question(
    'membrane',
    say`When a membrane is done`,
    say`A fixed floor treats all alike; its own first readings tell a slow start from a real decline.`,
    [
      { value: 'fixed-floor', label: say`Fixed floor` },
      { value: 'own-baseline', label: say`Own baseline` },
    ],
  ),
  question(
    'closing',
    say`Closing a housing`,
    say`Large sumps may want up to a quarter turn with the wrench; as tight as it will go ruins the seal.`,
    [
      { value: 'hand-only', label: say`By hand` },
      { value: 'hand-and-quarter-turn', label: say`Hand, then quarter turn` },
    ],
  ),
  question(
    'place',
    say`Where the work is done`,
    say`In place nothing is unplumbed; at the bench the set comes off by named lines and is seen from all sides.`,
    [
      { value: 'in-place', label: say`In place` },
      { value: 'at-the-bench', label: say`At the bench` },
    ],
  ),
  question('seals', say`Seals`, say`Inspected and greased they last for years; new ones at every change leave nothing to judge.`, [
    { value: 'reuse', label: say`Inspect and reuse` },
    { value: 'new', label: say`New every time` },
  ]),
  question('order', say`One at a time or all out`, say`One open position at a time cannot be mixed up; all out is quicker at a sink.`, [
    { value: 'one-at-a-time', label: say`One at a time` },
    { value: 'all-out', label: say`All out` },
  ]),
  question('tankWater', say`The storage tank at a change`, say`Its water can flush the post carbon; drained it starts fresh.`, [
    { value: 'keep', label: say`Keep its water` },
    { value: 'drain', label: say`Drain it` },
  ]),
]
