import type { StageDto, StopDto, StopPageDto } from '@evenround/contract/site'
import type { StageDueDto } from '@evenround/contract/wear'
import { tds } from '@evenround/core/readings'
import type { Rated, TdsReading, VisitState } from '@evenround/core/visit'
import { type Cause, dueOf, forecast, renewed, ruleOf, type WearReading, watersSeenBy } from '@evenround/core/wear'

export interface NextDue {
  stage: StageDto
  due: StageDueDto
  governing: Cause
}

const given = (rated: Rated) => Object.fromEntries(Object.entries(rated).filter(([, value]) => value !== null))
const mgL = (reading: TdsReading | null): number | null => (reading === null ? null : tds(reading).tdsMgL)

/** The waters read after the work, as a stage sees them. */
function readAfter(stop: StopDto, stage: StageDto, state: VisitState, today: string): WearReading[] {
  const { stages } = stop.system
  const behindMembrane = stages.slice(0, stages.indexOf(stage)).some(({ media }) => media === 'membrane')
  const { untreated, treated } = state.readings.after
  const seen = watersSeenBy(stage.media, behindMembrane, { untreated: mgL(untreated), treated: mgL(treated) })
  return seen.feedTdsMgL === undefined ? [] : [{ on: today, ...seen }]
}

/**
 * The stage that is to be changed first after this visit, by the same rule and curve as everywhere: the server's day where it has this
 * visit's parts, else from what the server made it of, with the new part in. Null where nothing is rated.
 */
export function nextDue({ stop, wear }: Pick<StopPageDto, 'stop' | 'wear'>, state: VisitState, today: string): NextDue | null {
  const all = stop.system.stages.flatMap((stage): NextDue[] => {
    const fitted = state.fitted.get(stage.id)
    const known = !fitted || (stage.part?.fittedOn === today && stage.part.partNumber === fitted.partNumber)
    if (known) return stage.forecast && stage.due ? [{ stage, due: stage.due, governing: stage.forecast.governing }] : []
    const before = wear.find(({ stageId }) => stageId === stage.id)?.input
    if (!before) return []
    const input = renewed(before, {
      fittedOn: today,
      rated: given(fitted.rated),
      found: state.removed.get(stage.id)?.found ?? null,
      readings: readAfter(stop, stage, state, today),
    })
    const result = forecast(input)
    const due = dueOf(input, ruleOf(stage.rule))
    return result.ok && due ? [{ stage, due: { ...due, rule: stage.rule }, governing: result.governing }] : []
  })
  return all.sort((a, b) => (a.due.due < b.due.due ? -1 : 1))[0] ?? null
}
