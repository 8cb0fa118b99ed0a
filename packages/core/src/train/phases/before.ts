import type { Plan, StepList } from '../plan'

/** Readings before the water is touched, and the customer told that it stops. */
export function before(plan: Plan, list: StepList, stopMinutes: number): void {
  list.add('before', 'measure', [plan.outlet.id], {
    text: 'Measure untreated and treated water',
    why: 'What the numbers say decides whether a part is really done, and the next visit compares with them.',
    evidence: 'reading',
    minutes: 3,
    tools: ['TDS meter', 'thermometer', 'clean cup'],
  })
  list.add('before', 'tell', [plan.outlet.id], {
    text: `Say that this tap is off for about ${stopMinutes} minutes`,
    why: 'Nobody opens a tap into an open housing, and nobody waits for water that does not come.',
    minutes: 1,
  })
}
