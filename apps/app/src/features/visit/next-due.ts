import type { Schools } from '@evenround/contract/firm'
import type { StageDto, StopDto } from '@evenround/contract/site'
import type { Rated, VisitState } from '@evenround/core/visit'
import { forecast, type WearForecast } from '@evenround/core/wear'

export interface NextDue {
  stage: StageDto
  forecast: WearForecast
}

const given = (rated: Rated) => Object.fromEntries(Object.entries(rated).filter(([, value]) => value !== null))

/** The stage that will be done first after this visit, with parts fitted now counted from today; null where nothing is rated. */
export function nextDue(stop: StopDto, state: VisitState, schools: Schools, today: string): NextDue | null {
  const { people, source, chlorineMgL } = stop.site
  const site = { people, source, ...(chlorineMgL === null ? {} : { chlorineMgL }) }
  const feed = state.readings.before.untreated
  const all = stop.system.stages.flatMap((stage): NextDue[] => {
    const fitted = state.fitted.get(stage.id)
    if (!fitted) return stage.forecast ? [{ stage, forecast: stage.forecast }] : []
    const readings = feed ? [{ on: today, feedTdsMgL: feed.display * feed.multiplier }] : []
    const result = forecast({
      today,
      stage: { media: stage.media, fittedOn: today, rated: given(fitted.rated), site },
      readings,
      past: [],
      school: schools.change,
    })
    return result.ok ? [{ stage, forecast: result }] : []
  })
  return all.sort((a, b) => (a.forecast.p50 < b.forecast.p50 ? -1 : 1))[0] ?? null
}
