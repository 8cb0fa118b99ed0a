import type { CounterLook } from '@evenround/core/readings'
import type { Train } from '@evenround/core/train'
import type { FoundGrade, WaterSource, WearSchool } from '@evenround/core/wear'
import type { FirmScope } from '../db/scope'
import { counting } from '../facts/counting'

export interface StageRow {
  stage_id: string
  system_id: string
  site_id: string
  train: Train
  people: number
  source: WaterSource
  chlorine_mg_l: number | null
  stage_school: WearSchool | null
  site_school: WearSchool | null
}

/** Systems of the stages asked for, whole: what got past one stage is felt by the next. */
export const stageRows = (scope: FirmScope, systemIds: readonly string[]): Promise<StageRow[]> =>
  scope.query(
    `select stage.id as stage_id, system.id as system_id, site.id as site_id, v.train, site.people, site.source, site.chlorine_mg_l,
       stage.change_school as stage_school, site.change_school as site_school
     from stage
     join system on system.firm_id = stage.firm_id and system.id = stage.system_id
     join site on site.firm_id = system.firm_id and site.id = system.site_id
     join train_version v on v.firm_id = system.firm_id and v.system_id = system.id and v.version = system.train_version
     where stage.firm_id = $1 and stage.system_id = any($2)`,
    [systemIds],
  )

export interface FittedRow {
  id: string
  stage_id: string
  visit_id: string
  at: Date
  part_id: string | null
  part_number: string
  rated_days: number | null
  rated_litres: number | null
  rated_milliequivalents: number | null
  rated_hours: number | null
  fitted_known: boolean
}

export const fittedRows = (scope: FirmScope, stageIds: readonly string[]): Promise<FittedRow[]> =>
  scope.query(
    `select f.id, f.stage_id, f.visit_id, f.at, f.part_id, f.part_number, f.rated_days, f.rated_litres, f.rated_milliequivalents,
       f.rated_hours, f.date_known as fitted_known
     from fact_part_fitted f where f.firm_id = $1 and f.stage_id = any($2) and ${counting('fact_part_fitted')} order by f.at, f.seq`,
    [stageIds],
  )

export interface RemovedRow {
  stage_id: string
  visit_id: string
  at: Date
  found: FoundGrade
  dirt_past: boolean | null
}

export const removedRows = (scope: FirmScope, stageIds: readonly string[]): Promise<RemovedRow[]> =>
  scope.query(
    `select f.stage_id, f.visit_id, f.at, f.found, f.dirt_past
     from fact_part_removed f where f.firm_id = $1 and f.stage_id = any($2) and ${counting('fact_part_removed')} order by f.at, f.seq`,
    [stageIds],
  )

export interface PairRow {
  system_id: string
  at: Date
  feed: number | null
  product: number | null
}

/** Untreated and treated water of one visit, before or after the work, side by side. */
export const tdsPairs = (scope: FirmScope, systemIds: readonly string[]): Promise<PairRow[]> =>
  scope.query(
    `select f.system_id, max(f.at) as at, max(f.tds_mg_l) filter (where f.water = 'untreated') as feed,
       max(f.tds_mg_l) filter (where f.water = 'treated') as product
     from fact_tds_reading f where f.firm_id = $1 and f.system_id = any($2) and ${counting('fact_tds_reading')}
     group by f.system_id, f.visit_id, f.phase order by 2`,
    [systemIds],
  )

export interface ReadingRow {
  system_id: string
  stage_id: string | null
  at: Date
  counter_l: number | null
  counter_started_over: boolean
  in_kpa: number | null
  out_kpa: number | null
  flow_l_min: number | null
  clean_flow_l_min: number | null
  chlorine_after_mg_l: number | null
  lamp_hours: number | null
  intensity_percent: number | null
  product_l_min: number | null
  water_c: number | null
}

export const readingRows = (scope: FirmScope, systemIds: readonly string[]): Promise<ReadingRow[]> =>
  scope.query(
    `select f.system_id, f.stage_id, f.at, f.counter_l, f.counter_started_over, f.in_kpa, f.out_kpa, f.flow_l_min, f.clean_flow_l_min,
       f.chlorine_after_mg_l, f.lamp_hours, f.intensity_percent, f.product_l_min, f.water_c
     from fact_stage_reading f where f.firm_id = $1 and f.system_id = any($2) and ${counting('fact_stage_reading')} order by f.at, f.seq`,
    [systemIds],
  )

export interface DeviceDayRow {
  system_id: string
  kind: 'pulse-counter' | 'lamp-controller'
  last_at: Date
  last_value: number
}

/** What counters and lamps that report by themselves showed at the end of each day. */
export const deviceDays = (scope: FirmScope, systemIds: readonly string[]): Promise<DeviceDayRow[]> =>
  scope.query(
    `select d.system_id, d.kind, y.last_at, y.last_value from device d join device_day y on y.firm_id = d.firm_id and y.device_id = d.id
     where d.firm_id = $1 and d.system_id = any($2) and d.active order by y.last_at`,
    [systemIds],
  )

export interface OccupancyRow {
  site_id: string
  from_day: string
  to_day: string
  share: number
}

export const occupancyRows = (scope: FirmScope, siteIds: readonly string[]): Promise<OccupancyRow[]> =>
  scope.query(
    `select site_id, from_day::text, to_day::text, share from occupancy where firm_id = $1 and site_id = any($2) order by from_day`,
    [siteIds],
  )

/** A counter's looks, in the core's words. */
export const looksOf = (rows: readonly ReadingRow[]): CounterLook[] =>
  rows.flatMap(({ at, counter_l, counter_started_over }) =>
    counter_l === null ? [] : [{ atMs: at.getTime(), displayL: counter_l, startedOver: counter_started_over }],
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
