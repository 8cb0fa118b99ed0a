import type { HistoryDto, StageDto, SystemDto } from '@evenround/contract/site'
import { stagesInFlow } from '@evenround/core/train'
import { In, IsNull } from 'typeorm'
import { Firm, Part, type Site, Stage, System, TrainVersion } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { equivalentsOf, partDto } from '../features/catalogue/store'
import { tdsHistories } from '../features/facts/read'
import { type KnownStage, knownOfSystems, partInService } from '../features/wear/inputs'
import { outlookOf } from '../features/wear/outlook'
import { instantAt } from '../time/zone'

const fitting = (part: Part) => ({ id: part.id, partNumber: part.partNumber, rated: partDto(part).rated })

function stageDto(known: KnownStage, next: Part | undefined, standIns: readonly Part[], timeZone: string): StageDto {
  const { node, school, rule } = known
  return {
    id: node.id,
    position: node.position,
    media: node.media,
    housing: node.housing,
    part: partInService(known, timeZone),
    ...outlookOf(known),
    rule,
    school,
    nextPart: next ? { ...fitting(next), equivalents: standIns.map(fitting) } : null,
  }
}

/** Systems of these sites with their trains, what sits in every stage and when it will be done; the book shows those that have left too. */
export async function systemsOf(
  scope: FirmScope,
  sites: readonly Pick<Site, 'id'>[],
  today: string,
  { withGone = false } = {},
): Promise<SystemDto[]> {
  if (sites.length === 0) return []
  const [firm, systems] = await Promise.all([
    scope.findOne(Firm, {}),
    scope.find(System, { siteId: In(sites.map(({ id }) => id)), ...(withGone ? {} : { goneAt: IsNull() }) }, { name: 'ASC' }),
  ])
  if (!firm) return []
  const ids = systems.map(({ id }) => id)
  const [trains, stages, catalogue, equivalents, known] = await Promise.all([
    scope.find(TrainVersion, { systemId: In(ids) }),
    scope.find(Stage, { systemId: In(ids) }),
    scope.find(Part),
    equivalentsOf(scope),
    knownOfSystems(scope, ids, { firm, today }),
  ])
  const parts = new Map(catalogue.map((part) => [part.id, part]))
  const nextOf = new Map(stages.map(({ id, nextPartId }) => [id, nextPartId === null ? undefined : parts.get(nextPartId)]))
  return systems.flatMap((system) => {
    const train = trains.find(({ systemId, version }) => systemId === system.id && version === system.trainVersion)?.train
    if (!train) return []
    const rows = stagesInFlow(train).flatMap((node) => {
      const stage = known.get(node.id)
      const next = nextOf.get(node.id)
      const standIns = (equivalents.get(next?.id ?? '') ?? []).flatMap((id) => parts.get(id) ?? [])
      return stage ? [stageDto(stage, next, standIns, firm.timeZone)] : []
    })
    return [
      {
        id: system.id,
        siteId: system.siteId,
        name: system.name,
        serialNo: system.serialNo,
        trainVersion: system.trainVersion,
        train,
        stages: rows,
      },
    ]
  })
}

/** No earlier readings: a site seen for the first time. */
const NO_HISTORY: HistoryDto = { untreatedMgL: [], treatedMgL: [], baselinePassage: null }

/** Earlier readings of these systems in their order, each without those of one visit. */
export async function historiesOf(
  scope: FirmScope,
  systems: readonly SystemDto[],
  timeZone: string,
  exceptVisits: readonly (string | null)[] = [],
): Promise<{ systemId: string; history: HistoryDto }[]> {
  const asks = systems.map(({ id, stages }, index) => {
    const fitted = stages.find(({ media }) => media === 'membrane')?.part?.fittedOn
    const membraneFittedAt = fitted === undefined ? null : instantAt(timeZone, fitted, 0)
    return { systemId: id, membraneFittedAt, exceptVisit: exceptVisits[index] ?? null }
  })
  const histories = await tdsHistories(scope, asks)
  return systems.map(({ id }, index) => ({ systemId: id, history: histories[index] ?? NO_HISTORY }))
}
