import type { MeDto } from '@evenround/contract/firm'
import type { StopDto } from '@evenround/contract/site'
import { tds } from '@evenround/core/readings'
import type { ShownUnits } from '@evenround/core/units'
import { SAFETY_HOLDS, type TdsReading, type VisitState } from '@evenround/core/visit'
import { midSentence, say } from '@evenround/core/words'
import { unitsOf } from '../../data/units'
import { FAULT_WORDS } from '../../parts/site/fault-words'
import { dueWords, stageName } from '../../parts/wear/words'
import { instantText, longDay, quantity as quantityText } from '../../ui/format'
import type { NextDue } from './next-due'

const tdsText = (reading: TdsReading, units: ShownUnits): string => {
  const { display, multiplier, quantity, scale, compensated, temperatureC } = reading
  return quantityText(tds({ display, multiplier, quantity, scale, compensated, temperatureC }).tdsMgL, 'concentration', units)
}

function readingsLine(word: string, { untreated, treated }: VisitState['readings']['before'], units: ShownUnits): string[] {
  const parts = [
    untreated ? say`untreated ${tdsText(untreated, units)}` : null,
    treated ? say`treated ${tdsText(treated, units)}` : null,
  ].filter((one) => one !== null)
  return parts.length === 0 ? [] : [`${word}: ${parts.join(', ')}`]
}

export interface SlipInput {
  me: Pick<MeDto, 'person' | 'firm' | 'today'>
  stop: StopDto
  state: VisitState
  next: NextDue | null
  /** Second visit that this one leaves, where one is on the road. */
  again: { day: string; why: string } | null
}

/** What the customer is given in words: what was done, the readings, what to hold off from and until when, and what comes next. */
export function slipText({ me, stop, state, next, again }: SlipInput): string {
  const units = unitsOf(me.firm)
  const stages = stop.system.stages
  const tasks = state.work ?? []
  const done = stages.flatMap((stage) => {
    const { id, position } = stage
    const medium = midSentence(stageName(stage))
    const fitted = state.fitted.get(id)
    if (fitted) return [say`Position ${position}, ${medium}: ${fitted.partNumber} fitted`]
    const action = tasks.find(({ stage }) => stage === id)?.action
    if (action !== undefined && [...state.done.keys()].some((key) => key.endsWith(`/measure:${id}`)))
      return [say`Position ${position}, ${medium}: looked into and filled up with salt`]
    if (!state.removed.has(id) || action === undefined || action === 'change') return []
    return [
      say`Position ${position}, ${medium}: ${action === 'wash' ? say`washed and put back` : action === 'clean' ? say`cleaned and put back` : say`looked after`}`,
    ]
  })
  const left = stages.flatMap((stage) => {
    const last = state.changes.findLast((change) => change.stage === stage.id)
    if (!last || last.action !== null || state.fitted.has(stage.id)) return []
    return [say`Position ${stage.position}, ${midSentence(stageName(stage))}: left for another day${last.why ? `: ${last.why}` : ''}`]
  })
  // What holds at this site from before, for its water as a whole, stands on every paper of it.
  const own = new Set(state.holds.map(({ id }) => id))
  const before = stop.holds.filter(({ id, holdKind }) => SAFETY_HOLDS.includes(holdKind) && !own.has(id) && !state.lifted.has(id))
  const holds = [...before, ...state.holds].map(
    ({ text, until }) => `${text}${until ? say` Until ${instantText(until, me.firm.timeZone)}.` : ''}`,
  )
  const standing = state.finished?.leftStanding ?? []
  const lines: string[][] = [
    [me.firm.name, `${longDay(me.today)} ${me.today.slice(0, 4)}, ${stop.site.name}, ${stop.system.name}`, say`Done by ${me.person.name}`],
    [...(done.length > 0 ? done : [say`No part was changed at this visit.`]), ...left],
    [...readingsLine(say`Before`, state.readings.before, units), ...readingsLine(say`After`, state.readings.after, units)],
    standing.length > 0 ? [say`NOT IN SERVICE`, ...standing] : [],
    state.faults.length > 0
      ? [say`SEEN, AND WORTH MENDING`, ...state.faults.map(({ what, text }) => `${FAULT_WORDS[what]}${text ? `: ${text}` : ''}`)]
      : [],
    holds.length > 0 ? [say`PLEASE HOLD OFF`, ...holds] : [],
    again ? [say`We come again on ${longDay(again.day)}: ${again.why}.`] : [],
    next
      ? [
          say`Next time, position ${next.stage.position}, ${midSentence(stageName(next.stage))}. ${dueWords(next.due, next.governing, me.today, units)}`,
        ]
      : [],
    [say`Dissolved solids say nothing about germs or most poisons.`],
  ]
  return lines
    .filter((block) => block.length > 0)
    .map((block) => block.join('\n'))
    .join('\n\n')
}
