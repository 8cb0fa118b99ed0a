import { MEDIA_PROFILES } from '../../catalogue/media-profiles'
import { stageLabel } from '../labels'
import type { Plan, StepList } from '../plan'
import type { SheetHold } from '../types'

/** A tank of this size behind a membrane takes about this long to fill once. */
const HOURS_PER_TANK = 3

/** What the customer must hold off from after this work, and for how long. */
export function holdsAfter(plan: Plan): SheetHold[] {
  if (!plan.tank) return []
  const tanks = plan.due.some(({ stage }) => stage.media === 'post-carbon') ? 2 : 1
  const text =
    tanks === 2 ? 'Let the tank fill and pour it away twice before drinking.' : 'Let the tank fill once and pour it away before drinking.'
  return [{ kind: 'first-tank', hours: tanks * HOURS_PER_TANK, text }]
}

/** Monitor, mark, readings, record, and the customer told: the reminder for next time is only as good as this. */
export function closeOut(plan: Plan, list: StepList, holds: readonly SheetHold[]): void {
  for (const { stage, task } of plan.due) {
    if (task.action === 'change') {
      list.add('close-out', 'mark', [stage.id], {
        text: `Write today’s date on ${stageLabel(stage)}`,
        why: 'Whoever stands here next sees it without a phone.',
        consumables: ['marker'],
      })
    }
    if (stage.monitored) {
      list.add('close-out', 'reset', [stage.id], {
        text: `Reset the monitor for the ${MEDIA_PROFILES[stage.media].name}`,
        why: 'A reminder that nobody reset counts from the wrong day.',
      })
    }
  }
  list.add('close-out', 'measure', [plan.outlet.id], {
    text: 'Measure again: untreated and treated',
    why: 'The first readings of the new part are what later ones are compared with. Sample after it has run a while.',
    evidence: 'reading',
    minutes: 3,
    tools: ['TDS meter'],
  })
  list.add('close-out', 'record', [plan.outlet.id], {
    text: 'Check the record: parts, positions, readings',
    why: 'What is not written down is not known next time.',
  })
  for (const hold of holds) {
    list.add('close-out', 'hold', [plan.outlet.id], {
      to: hold.kind,
      text: hold.text,
      why: 'Preservative and fines end in the first water; it is safe to pour down the sink, not to drink.',
    })
  }
  list.add('close-out', 'tell', [plan.outlet.id], {
    text:
      holds.length > 0
        ? 'Tell the customer what to hold off from, and until when'
        : 'Tell the customer what was done and when you come next',
    why: 'A hold that nobody was told of protects nobody.',
  })
}
