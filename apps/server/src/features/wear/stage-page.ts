import type { SeriesDto, StagePageDto } from '@evenround/contract/due'
import { USUAL_LIMITS } from '@evenround/core/catalogue'
import { forecast, learnedUse, narrowing, permeateAt25, type WearInput, type WearReading } from '@evenround/core/wear'
import { In } from 'typeorm'
import { FACT_TABLES } from '../../db/entities/facts'
import { Firm, Site, Stage, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { notFound } from '../../http/errors'
import { dayIn } from '../../time/zone'
import { type KnownStage, knownOfSystems, partInService } from './inputs'
import { outlookOf } from './outlook'

interface Drawn {
  cause: SeriesDto['cause']
  quantity: SeriesDto['quantity']
  value: (reading: WearReading) => number | undefined
  limit: (input: WearInput, first: number) => number | null
}

const pairOf = (a: number | undefined, b: number | undefined, join: (a: number, b: number) => number): number | undefined =>
  a === undefined || b === undefined ? undefined : join(a, b)

/** Series the screens draw, and where each one's limit stands; the first value is clean, new, or the membrane's own baseline. */
const DRAWN: readonly Drawn[] = [
  {
    cause: 'pressure',
    quantity: 'drop-kpa',
    value: ({ inKpa, outKpa }) => pairOf(inKpa, outKpa, (a, b) => a - b),
    limit: (input, first) => first + (input.stage.limits?.overCleanKpa ?? USUAL_LIMITS.overCleanKpa),
  },
  {
    cause: 'pressure',
    quantity: 'flow-share',
    value: ({ flowLMin, cleanFlowLMin }) => pairOf(flowLMin, cleanFlowLMin, (a, b) => a / b),
    limit: (input) => input.stage.limits?.flowShare ?? USUAL_LIMITS.flowShare,
  },
  {
    cause: 'passage',
    quantity: 'passage',
    value: ({ feedTdsMgL, productTdsMgL }) => pairOf(productTdsMgL, feedTdsMgL, (a, b) => (b > 0 ? a / b : 0)),
    limit: (input, first) => input.stage.limits?.passage ?? first * (input.stage.limits?.passageRatio ?? USUAL_LIMITS.passageRatio),
  },
  {
    cause: 'production',
    quantity: 'permeate',
    value: ({ productLMin, waterC }) => (productLMin === undefined ? undefined : permeateAt25(productLMin, waterC ?? 25)),
    limit: (input, first) => first * (input.stage.limits?.permeateShare ?? USUAL_LIMITS.permeateShare),
  },
  {
    cause: 'breakthrough',
    quantity: 'chlorine',
    value: ({ chlorineAfterMgL }) => chlorineAfterMgL,
    limit: (input) => input.stage.limits?.chlorineMgL ?? USUAL_LIMITS.chlorineMgL,
  },
  {
    cause: 'intensity',
    quantity: 'intensity',
    value: ({ intensityPercent }) => intensityPercent,
    limit: (input) => input.stage.limits?.intensityPercent ?? USUAL_LIMITS.intensityPercent,
  },
  { cause: 'throughput', quantity: 'litres', value: ({ counterL }) => counterL, limit: (input) => input.stage.rated.litres ?? null },
  { cause: 'lamp', quantity: 'lamp-hours', value: ({ lampHours }) => lampHours, limit: (input) => input.stage.rated.hours ?? null },
  { cause: 'passage', quantity: 'feed-tds', value: ({ feedTdsMgL }) => feedTdsMgL, limit: () => null },
  { cause: 'passage', quantity: 'product-tds', value: ({ productTdsMgL }) => productTdsMgL, limit: () => null },
]

function seriesOf(input: WearInput): SeriesDto[] {
  const sorted = [...input.readings].sort((a, b) => (a.on < b.on ? -1 : a.on > b.on ? 1 : 0))
  return DRAWN.flatMap(({ cause, quantity, value, limit }) => {
    const points = sorted.flatMap((reading) => {
      const read = value(reading)
      return read === undefined ? [] : [{ at: `${reading.on}T12:00:00.000Z`, on: reading.on, value: read }]
    })
    // A new part has let nothing through yet.
    if (points.length > 0 && quantity === 'litres' && points[0]?.on !== input.stage.fittedOn)
      points.unshift({ at: `${input.stage.fittedOn}T12:00:00.000Z`, on: input.stage.fittedOn, value: 0 })
    const first = points[0]
    return first === undefined ? [] : [{ cause, quantity, points, limit: limit(input, first.value) }]
  })
}

function forecastOf(input: WearInput): StagePageDto['forecast'] {
  const result = forecast(input)
  if (!result.ok) return null
  const { ok: _, ...told } = result
  return { ...told, narrowing: narrowing(input, told) }
}

async function historyOf(scope: FirmScope, { times }: KnownStage, timeZone: string): Promise<StagePageDto['history']> {
  // What came in by a list was fitted at no visit the book could show.
  const begun = await scope.find(FACT_TABLES['visit-begun'], { visitId: In(times.map(({ fitted }) => fitted.visitId)) })
  const visits = new Set(begun.map(({ visitId }) => visitId))
  return times
    .map(({ fitted, removed }) => ({
      partNumber: fitted.partNumber,
      fittedOn: dayIn(timeZone, fitted.at),
      dateKnown: fitted.dateKnown,
      removedOn: removed ? dayIn(timeZone, removed.at) : null,
      found: removed?.found ?? null,
      dirtPast: removed?.dirtPast ?? null,
      visitId: visits.has(fitted.visitId) ? fitted.visitId : null,
    }))
    .reverse()
}

/** Everything about one stage: the part in it, every cause's window, what was found before, its readings, and the school in force. */
export async function stagePage(scope: FirmScope, id: string, now: Date): Promise<StagePageDto> {
  const stage = await scope.findOne(Stage, { id })
  const system = stage && (await scope.findOne(System, { id: stage.systemId }))
  const site = system && (await scope.findOne(Site, { id: system.siteId }))
  const firm = await scope.findOne(Firm, {})
  if (!stage || !system || !site || !firm || system.goneAt !== null) throw notFound('stage')
  const today = dayIn(firm.timeZone, now)
  const known = (await knownOfSystems(scope, [system.id], { firm, today })).get(id)
  if (!known) throw notFound('stage')
  const { input, node, use, ruledAt } = known
  return {
    stage: {
      id,
      siteId: site.id,
      siteName: site.name,
      systemId: system.id,
      systemName: system.name,
      position: node.position,
      media: node.media,
    },
    today,
    part: partInService(known, firm.timeZone),
    forecast: input ? forecastOf(input) : null,
    due: outlookOf(known).due,
    ruledAt,
    use: input ? { ...use, learned: learnedUse(input) } : null,
    school: known.school,
    chosen: { firm: firm.schools.change, site: site.changeSchool, stage: stage.changeSchool },
    history: await historyOf(scope, known, firm.timeZone),
    carriedOver: (input?.stage.carryOver ?? []).map(({ on }) => on),
    washedOn: [...(input?.stage.washedOn ?? [])],
    series: input ? seriesOf(input) : [],
  }
}
