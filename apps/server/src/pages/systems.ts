import type { FirmDto } from '@evenround/contract/firm'
import type { HistoryDto, StageDto, SystemDto } from '@evenround/contract/site'
import { type StageNode, stagesInFlow } from '@evenround/core/train'
import type { Rated } from '@evenround/core/visit'
import { forecast, type WearStage } from '@evenround/core/wear'
import { In } from 'typeorm'
import { Part, type Site, Stage, System, TrainVersion } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { type CurrentPart, currentParts } from '../facts/read'
import { dayIn } from '../http/zone'

export const ratedOfPart = (part: Part): Rated => ({
  days: part.ratedDays,
  litres: part.ratedLitres,
  milliequivalents: part.ratedMilliequivalents,
  hours: part.ratedHours,
})

const given = (rated: Rated): WearStage['rated'] => Object.fromEntries(Object.entries(rated).filter(([, value]) => value !== null))

interface StageContext {
  site: Site
  firm: Pick<FirmDto, 'timeZone' | 'schools'>
  today: string
  /** Mean of the untreated TDS seen here, for resin; null when none was measured. */
  feedTdsMgL: number | null
}

function stageForecast(node: StageNode, part: CurrentPart, context: StageContext): StageDto['forecast'] {
  const { site, firm, today, feedTdsMgL } = context
  const fittedOn = dayIn(firm.timeZone, part.fittedAt)
  // A device whose clock runs ahead may have fitted "tomorrow".
  const asOf = today < fittedOn ? fittedOn : today
  const { people, source, chlorineMgL } = site
  const result = forecast({
    today: asOf,
    stage: {
      media: node.media,
      fittedOn,
      rated: given(part.rated),
      site: { people, source, ...(chlorineMgL === null ? {} : { chlorineMgL }) },
    },
    readings: feedTdsMgL === null ? [] : [{ on: fittedOn, feedTdsMgL }],
    past: [],
    school: firm.schools.change,
  })
  if (!result.ok) return null
  const { ok: _, ...wear } = result
  return wear
}

function stageDto(node: StageNode, part: CurrentPart | undefined, next: Part | undefined, context: StageContext): StageDto {
  return {
    id: node.id,
    position: node.position,
    media: node.media,
    housing: node.housing,
    part: part ? { partNumber: part.partNumber, fittedOn: dayIn(context.firm.timeZone, part.fittedAt), rated: part.rated } : null,
    forecast: part ? stageForecast(node, part, context) : null,
    nextPart: next ? { id: next.id, partNumber: next.partNumber, rated: ratedOfPart(next) } : null,
  }
}

async function meanFeed(scope: FirmScope, systemIds: readonly string[]): Promise<Map<string, number>> {
  const rows = await scope.query<{ system_id: string; mean: number }>(
    `select system_id, avg(tds_mg_l) as mean from fact_tds_reading
     where firm_id = $1 and system_id = any($2) and water = 'untreated' and not voided group by system_id`,
    [systemIds],
  )
  return new Map(rows.map(({ system_id, mean }) => [system_id, mean]))
}

/** Systems of these sites with their trains, what sits in every stage and when it will be done. */
export async function systemsOf(scope: FirmScope, sites: readonly Site[], firm: FirmDto, today: string): Promise<SystemDto[]> {
  if (sites.length === 0) return []
  const siteById = new Map(sites.map((site) => [site.id, site]))
  const systems = await scope.find(System, { siteId: In([...siteById.keys()]) }, { name: 'ASC' })
  const ids = systems.map(({ id }) => id)
  const trains = await scope.find(TrainVersion, { systemId: In(ids) })
  const stages = await scope.find(Stage, { systemId: In(ids) })
  const fitted = await currentParts(
    scope,
    stages.map(({ id }) => id),
  )
  const feeds = await meanFeed(scope, ids)
  const parts = new Map((await scope.find(Part)).map((part) => [part.id, part]))
  const nextOf = new Map(stages.map(({ id, nextPartId }) => [id, nextPartId === null ? undefined : parts.get(nextPartId)]))
  return systems.flatMap((system) => {
    const train = trains.find(({ systemId, version }) => systemId === system.id && version === system.trainVersion)?.train
    const site = siteById.get(system.siteId)
    if (!train || !site) return []
    const context = { site, firm, today, feedTdsMgL: feeds.get(system.id) ?? null }
    const rows = stagesInFlow(train).map((node) => stageDto(node, fitted.get(node.id), nextOf.get(node.id), context))
    return [{ id: system.id, siteId: system.siteId, name: system.name, trainVersion: system.trainVersion, train, stages: rows }]
  })
}

/** No earlier readings: a site seen for the first time. */
export const NO_HISTORY: HistoryDto = { untreatedMgL: [], treatedMgL: [], baselinePassage: null }
