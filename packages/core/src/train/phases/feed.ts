import type { Plan, StepList } from '../plan'

/** Pressure comes back to about half, is looked at, and only then fully: the same wherever a valve was shut. */
export function openSlowly(phase: string, valve: { id: string; name: string }, list: StepList): void {
  list.add(phase, 'open', [valve.id], {
    to: 'half',
    text: `Open ${valve.name} to about half`,
    why: 'Slowly: a hammer of water lifts seals and breaks elements. Air spits at the first opening.',
  })
  list.add(phase, 'leak-check', [valve.id], {
    text: 'Look and feel under every joint you opened',
    why: 'A drip now is a seal lifted or doubled. Shut, relieve and look for a second gasket; do not turn harder.',
    minutes: 2,
    tools: ['torch', 'dry tissue'],
  })
  list.add(phase, 'open', [valve.id], {
    to: 'full',
    text: `Open ${valve.name} fully`,
    why: 'Half open it throttles the flow and wears its seat.',
  })
}

export function openFeed(phase: string, plan: Plan, list: StepList): void {
  if (plan.pump) {
    list.add(phase, 'power-on', [plan.pump], { text: 'Switch the pump on', why: 'It is needed to flush; its section is closed again.' })
  }
  openSlowly(phase, { id: plan.feed.id, name: 'the feed valve' }, list)
}
