import { tapLabel } from '../labels'
import { isWet, outlets, type Plan } from '../plan'
import type { Work } from '../work'

/** Readings before the water is touched, and the customer told what is about to stop. */
export function before(prefix: string, plan: Plan, work: Work): void {
  const wet = plan.due.some(isWet)
  work.add(`${prefix}before`, 'measure', [plan.tap], {
    text: wet || prefix !== '' ? 'Measure untreated and treated water' : 'Read what there is to read: meter, monitor, lamp hours',
    why: 'What the numbers say decides whether a part is really done, and the next visit compares with them.',
    ...(wet || prefix !== '' ? { evidence: 'reading' as const } : {}),
    tools: ['TDS meter', 'thermometer', 'clean cup'],
  })
}

/** The customer told, with the minutes the work takes; who must have water is named. */
const fives = (minutes: number): number => Math.max(5, Math.ceil(minutes / 5) * 5)

/** How long the water stops, and how long it goes round what is worked on, minutes. */
export interface Stopping {
  stopsMin: number
  goesRoundMin: number
}

export function tellStop(prefix: string, plan: Plan, { stopsMin, goesRoundMin }: Stopping, work: Work): void {
  const bypassed = stopsMin === 0 && goesRoundMin > 0
  const must = outlets(plan.train).filter(({ mustGoOn }) => mustGoOn)
  const stops = must.length > 0 && !bypassed
  const about = fives(bypassed ? goesRoundMin : stopsMin)
  const then =
    !bypassed && goesRoundMin > 0 ? `; then the water goes round the set, untreated, for about ${fives(goesRoundMin)} minutes` : ''
  work.add(`${prefix}before`, 'tell', [plan.tap], {
    text: bypassed
      ? `Say that the water goes round the set, untreated, for about ${about} minutes`
      : stops
        ? `Agree on a quiet hour: ${must.map(({ id }) => tapLabel(plan.train, id)).join(' and ')} stops for about ${about} minutes${then}`
        : `Say that ${tapLabel(plan.train, plan.tap)} is out of use for about ${about} minutes${then}`,
    why: bypassed
      ? 'Nobody drinks untreated water without knowing it.'
      : 'Nobody opens a tap into an open housing, and nobody waits for water that does not come.',
    ...(stops ? { caution: 'No bypass goes round this work: begin only when nobody needs the water.' } : {}),
  })
}

/** A lamp that is changed stops no water: what is drawn meanwhile is not disinfected. */
export function tellDark(prefix: string, plan: Plan, work: Work): void {
  work.add(`${prefix}before`, 'tell', [plan.tap], {
    text: 'Say that no water is drawn until the lamp is lit and warm',
    why: 'While it is dark the water that comes out is not disinfected. Shut the valve behind the chamber where there is one.',
  })
}
