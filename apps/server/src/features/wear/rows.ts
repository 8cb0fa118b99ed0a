import type { CounterReading } from '@evenround/core/readings'
import type { Train } from '@evenround/core/train'
import type { PlaceKind, WaterSource, WearSchool } from '@evenround/core/wear'
import type { FirmScope } from '../../db/scope'
import { counting } from '../records/counting'
import { factRows, type Read } from '../records/rows'

export interface StageRow {
  stageId: string
  systemId: string
  siteId: string
  train: Train
  people: number
  source: WaterSource
  kind: PlaceKind
  chlorineMgL: number | null
  stageSchool: WearSchool | null
  siteSchool: WearSchool | null
}

/** Systems of the stages asked for, whole: what got past one stage is felt by the next. */
export const stageRows = (scope: FirmScope, systemIds: readonly string[]): Promise<StageRow[]> =>
  scope.query(
    `select stage.id as "stageId", system.id as "systemId", site.id as "siteId", v.train, site.people, site.source, site.kind,
       site.chlorine_mg_l as "chlorineMgL", stage.change_school as "stageSchool", site.change_school as "siteSchool"
     from stage
     join system on system.firm_id = stage.firm_id and system.id = stage.system_id
     join site on site.firm_id = system.firm_id and site.id = system.site_id
     join train_version v on v.firm_id = system.firm_id and v.system_id = system.id and v.version = system.train_version
     where stage.firm_id = $1 and stage.system_id = any($2)`,
    [systemIds],
  )

export type FittedRow = Read<'part-fitted'>
export const fittedRows = (scope: FirmScope, stageIds: readonly string[]): Promise<FittedRow[]> =>
  factRows(scope, 'part-fitted', 'f.stage_id = any($2)', [stageIds])

export type RemovedRow = Read<'part-removed'>
export const removedRows = (scope: FirmScope, stageIds: readonly string[]): Promise<RemovedRow[]> =>
  factRows(scope, 'part-removed', 'f.stage_id = any($2)', [stageIds])

export type ReadingRow = Read<'stage-reading'>
export const readingRows = (scope: FirmScope, systemIds: readonly string[]): Promise<ReadingRow[]> =>
  factRows(scope, 'stage-reading', 'f.system_id = any($2)', [systemIds])

export interface PairRow {
  systemId: string
  at: Date
  feed: number | null
  product: number | null
}

/** Untreated and treated water of one visit, before or after the work, side by side. */
export const tdsPairs = (scope: FirmScope, systemIds: readonly string[]): Promise<PairRow[]> =>
  scope.query(
    `select f.system_id as "systemId", max(f.at) as at, max(f.tds_mg_l) filter (where f.water = 'untreated') as feed,
       max(f.tds_mg_l) filter (where f.water = 'treated') as product
     from fact_tds_reading f where f.firm_id = $1 and f.system_id = any($2) and ${counting('fact_tds_reading')}
     group by f.system_id, f.visit_id, f.phase order by 2`,
    [systemIds],
  )

export interface DeviceDayRow {
  systemId: string
  kind: 'pulse-counter' | 'lamp-controller'
  lastAt: Date
  lastValue: number
}

/** What counters and lamps that report by themselves showed at the end of each day. */
export const deviceDays = (scope: FirmScope, systemIds: readonly string[]): Promise<DeviceDayRow[]> =>
  scope.query(
    `select d.system_id as "systemId", d.kind, y.last_at as "lastAt", y.last_value as "lastValue"
     from device d join device_day y on y.firm_id = d.firm_id and y.device_id = d.id
     where d.firm_id = $1 and d.system_id = any($2) and d.active order by y.last_at`,
    [systemIds],
  )

export interface OccupancyRow {
  siteId: string
  from: string
  to: string
  share: number
}

export const occupancyRows = (scope: FirmScope, siteIds: readonly string[]): Promise<OccupancyRow[]> =>
  scope.query(
    `select site_id as "siteId", from_day::text as "from", to_day::text as "to", share from occupancy
     where firm_id = $1 and site_id = any($2) order by from_day`,
    [siteIds],
  )

/** A counter's looks, in the core's words. */
export const counterReadingsOf = (rows: readonly ReadingRow[]): CounterReading[] =>
  rows.flatMap(({ at, counterL, counterStartedOver }) =>
    counterL === null ? [] : [{ atMs: at.getTime(), displayL: counterL, startedOver: counterStartedOver }],
  )

export const grouped = <R>(rows: readonly R[], key: (row: R) => string): Map<string, R[]> => {
  const groups = new Map<string, R[]>()
  for (const row of rows) {
    const list = groups.get(key(row))
    if (list) list.push(row)
    else groups.set(key(row), [row])
  }
  return groups
}
