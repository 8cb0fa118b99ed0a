import { say } from '../../words'
import { tapLabel } from '../labels'
import { isWet, outlets, type Plan } from '../plan'
import type { Work } from '../work'

/** Readings before the water is touched, and the customer told what is about to stop. */
export function before(prefix: string, plan: Plan, work: Work): void {
  const wet = plan.due.some(isWet)
  work.add(`${prefix}before`, 'measure', [plan.tap], {
    text: wet || prefix !== '' ? say`Measure untreated and treated water` : say`Read what there is to read: meter, monitor, lamp hours`,
    why: say`What the numbers say decides whether a part is really done, and the next visit compares with them.`,
    ...(wet || prefix !== '' ? { evidence: 'reading' as const } : {}),
    tools: [say`TDS meter`, 'thermometer', say`clean cup`],
  })
}

/** How long the water stops, and how long it goes round what is worked on, minutes; neither where parallel lines carry it on. */
export interface Stopping {
  stopsMin: number
  goesRoundMin: number
}

const fives = (minutes: number): number => Math.max(5, Math.ceil(minutes / 5) * 5)
const goesRound = (minutes: number): string => say`the water goes round the set, untreated, for about ${fives(minutes)} minutes`

/** The customer told, with the minutes the work takes; who must have water is named. */
export function tellStop(prefix: string, plan: Plan, { stopsMin, goesRoundMin }: Stopping, work: Work): void {
  const tell = (text: string, why: string, caution?: string): void => {
    work.add(`${prefix}before`, 'tell', [plan.tap], { text, why, ...(caution === undefined ? {} : { caution }) })
  }
  if (stopsMin === 0) {
    if (goesRoundMin > 0) tell(say`Say that ${goesRound(goesRoundMin)}`, say`Nobody drinks untreated water without knowing it.`)
    else tell(say`Say that the water goes on meanwhile, with less flow`, say`The line beside it carries on: nobody has to wait.`)
    return
  }
  const about = fives(stopsMin)
  const then = goesRoundMin > 0 ? say`; then ${goesRound(goesRoundMin)}` : ''
  const must = outlets(plan.train).filter(({ mustGoOn }) => mustGoOn)
  const why = say`Nobody opens a tap into an open housing, and nobody waits for water that does not come.`
  if (must.length === 0) tell(say`Say that ${tapLabel(plan.train, plan.tap)} is out of use for about ${about} minutes${then}`, why)
  else
    tell(
      say`Agree on a quiet hour: ${must.map(({ id }) => tapLabel(plan.train, id)).join(say` and `)} stops for about ${about} minutes${then}`,
      why,
      say`No bypass goes round this work: begin only when nobody needs the water.`,
    )
}

/** A lamp that is changed stops no water: what is drawn meanwhile is not disinfected. */
export function tellDark(prefix: string, plan: Plan, work: Work): void {
  work.add(`${prefix}before`, 'tell', [plan.tap], {
    text: say`Say that no water is drawn until the lamp is lit and warm`,
    why: say`While it is dark the water that comes out is not disinfected. Shut the valve behind the chamber where there is one.`,
  })
}
