import type { SetPlan } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'

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
/** A right that one person alone has is no skill anybody could be given. */
const ONLY = /^only:/

/** Why a visit has no day and what to do about it; null where only nobody has planned it yet. */
export function whyNoDay(reason: Reason | undefined, why: string, skills: readonly string[]): string | null {
  if (reason === 'free') return null
  if (reason === undefined) return `${why}.`
  if (reason === 'skill' && skills.some((skill) => ONLY.test(skill)))
    return say`The technician it is tied to does not work in these weeks. Set their working times, or give the work to somebody else.`
  return `${why.charAt(0).toUpperCase()}${why.slice(1)}. ${WHAT_TO_DO[reason]}`
}
