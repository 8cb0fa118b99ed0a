import type { SetPlan } from '@evenround/contract/rounds'
import { retell, say } from '@evenround/core/words'

type Reason = NonNullable<SetPlan['unplanned'][number]['reason']>

/** What helps against each reason. */
const WHAT_TO_DO: Record<Exclude<Reason, 'free'>, string> = {
  skill: say`Give somebody the skill under The firm, People.`,
  pin: say`Open it and unpin it, or pin it to a day on which the site is open.`,
  shut: say`Allow a day again, or correct the site’s opening hours.`,
  off: say`Take back a day off, or give it to somebody else.`,
  after: say`Plan that one first.`,
  gap: say`Move the visit it follows.`,
  full: say`Move another visit away, allow more overtime, or widen the opening hours.`,
}
/** Clauses that name something: they are kept with the plan, in English. */
const WITH_PLACES = [
  'nobody who works in these weeks has the skill it needs: {0}',
  '{0}, which it follows, has no day',
  'no day of its window keeps the gap asked for after {0}',
]
/** A right that one person alone has is no skill anybody could be given. */
const ONLY = /^only:/

/** Why a visit has no day and what to do about it; null where only nobody has planned it yet. */
export function whyNoDay(reason: Reason | undefined, why: string, skills: readonly string[]): string | null {
  if (reason === 'free') return null
  const clause = retell(why, WITH_PLACES)
  if (reason === undefined) return `${clause}.`
  if (reason === 'skill' && skills.some((skill) => ONLY.test(skill)))
    return say`The technician it is tied to does not work in these weeks. Set their working times, or give the work to somebody else.`
  return `${clause.charAt(0).toUpperCase()}${clause.slice(1)}. ${WHAT_TO_DO[reason]}`
}
