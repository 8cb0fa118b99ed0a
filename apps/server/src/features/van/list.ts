import type { VanList } from '@evenround/contract/rounds'
import type { Medium } from '@evenround/core/catalogue'
import { MONDAY_TO_FRIDAY, workingDaysBefore } from '@evenround/core/schedule'
import { stagesInFlow } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { Between, In } from 'typeorm'
import { Part, Site, Stage, Stop, StopTask, type TrainVersion } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { visitsOfStops } from '../facts/read'
import { calendarOf } from '../times/calendar'
import { VAN_ITEMS, type VanItem } from './items'

type Item = VanList['items'][number]

/** Beside the part: what a change of a medium uses up, and what it takes in hand. */
const BESIDE: Partial<Record<Medium, { consumables?: [key: VanItem, count: number, unit: string][]; tools?: VanItem[] }>> = {
  'uv-lamp': { tools: ['lint-free-gloves', 'ultraviolet-safety-glasses'] },
  'uv-sleeve': { consumables: [['descaler-for-sleeves', 1, 'sachet']], tools: ['lint-free-gloves'] },
  membrane: { tools: ['membrane-puller'] },
  'deionising-resin': { consumables: [['draining-sack', 1, 'piece']], tools: ['resin-funnel'] },
  'carbon-tank': {
    consumables: [
      ['draining-sack', 2, 'piece'],
      ['top-gasket', 1, 'piece'],
    ],
    tools: ['tank-funnel', 'riser-cap', 'hose-and-hose-adapter'],
  },
  'iron-bed': { consumables: [['draining-sack', 3, 'piece']], tools: ['tank-funnel', 'riser-cap', 'hose-and-hose-adapter'] },
  'ph-bed': { tools: ['tank-funnel'] },
  'chlorine-feed': { tools: ['chlorine-strips', 'goggles-apron-chemical-gloves'] },
  softener: { consumables: [['softener-salt', 25, 'kg']], tools: ['hardness-drops'] },
}
const SUMPS = ['sump-small', 'sump-large']
/** In the van every day there is anything to do. */
const ALWAYS: [kind: Item['kind'], key: VanItem, count: number, unit: string][] = [
  ['tool', 'tds-meter', 1, 'piece'],
  ['tool', 'catch-vessel-and-towels', 1, 'set'],
  ['consumable', 'silicone-grease-for-drinking-water', 1, 'tube'],
  ['consumable', 'gloves', 2, 'pair'],
]
const ON_DOSE_DAY: typeof ALWAYS = [
  ['chlorine', 'chlorine-test-strips-high-range', 25, 'strip'],
  ['chlorine', 'chlorine-test-strips-low-range', 25, 'strip'],
  ['tool', 'goggles-apron-chemical-gloves', 1, 'set'],
  ['tool', 'recirculation-hose', 1, 'piece'],
]
const ON_FLUSH_DAY: typeof ALWAYS = [
  ['chlorine', 'chlorine-test-strips-low-range', 25, 'strip'],
  ['chlorine', 'neutraliser', 1, 'jar'],
]
const ON_SAMPLE_DAY: typeof ALWAYS = [
  ['chlorine', 'sample-bottle-sterile-dechlorinating', 2, 'piece'],
  ['chlorine', 'chlorine-test-strips-low-range', 5, 'strip'],
  ['tool', 'cool-bag', 1, 'piece'],
]
const JOB_DAYS = { dose: ON_DOSE_DAY, flush: ON_FLUSH_DAY, sample: ON_SAMPLE_DAY } as const

/** Working days from an order to the shelf, until each supplier has its own. */
const LEAD_WORKING_DAYS = 5

/** What somebody's van must hold from one day to another: parts, what a change uses up, tools, chlorine with its strips. */
export async function vanList(scope: FirmScope, personId: string, from: string, to: string): Promise<VanList> {
  const planned = await scope.find(Stop, { technicianId: personId, day: Between(from, to) }, { day: 'ASC', orderNo: 'ASC' })
  const begun = await visitsOfStops(
    scope,
    planned.map(({ id }) => id),
  )
  const stops = planned.filter(({ id }) => begun.get(id)?.finished !== true)
  const items = new Map<string, Item>()
  const names = new Map((await scope.find(Site, { id: In(stops.map(({ siteId }) => siteId)) })).map(({ id, name }) => [id, name]))
  const add = (kind: Item['kind'], key: string, name: string, count: number, unit: string, stop: Stop, once = false): void => {
    const item = items.get(key) ?? { key, kind, name, count: 0, unit, forSites: [], firstDay: stop.day, state: null, orderBy: null }
    item.count = once ? Math.max(item.count, count) : item.count + count
    const site = names.get(stop.siteId) ?? ''
    if (!item.forSites.includes(site)) item.forSites.push(site)
    items.set(key, item)
  }
  const tasks = await scope.find(StopTask, { stopId: In(stops.map(({ id }) => id)) })
  const stages = new Map((await scope.find(Stage, { id: In(tasks.map(({ stageId }) => stageId)) })).map((stage) => [stage.id, stage]))
  const parts = new Map((await scope.find(Part)).map((part) => [part.id, part]))
  const trains = await trainsOf(scope, [...new Set(stops.map(({ systemId }) => systemId))])
  for (const stop of stops) {
    for (const [kind, key, count, unit] of ALWAYS) add(kind, key, VAN_ITEMS[key], count, unit, stop, true)
    if (stop.jobDay)
      for (const [kind, key, count, unit] of JOB_DAYS[stop.jobDay]) add(kind, key, VAN_ITEMS[key], count, unit, stop, kind === 'tool')
    for (const { stageId, action } of tasks.filter(({ stopId }) => stopId === stop.id)) {
      const node = trains.get(stop.systemId)?.find(({ id }) => id === stageId)
      const part = parts.get(stages.get(stageId)?.nextPartId ?? '')
      if (part && (action === 'change' || action === 'refill')) add('part', part.partNumber, part.name, 1, 'piece', stop)
      if (!node) continue
      if (SUMPS.includes(node.housing)) {
        add(
          'consumable',
          `seal-${node.housing}`,
          node.housing === 'sump-large' ? say`Sump seal, large (spare)` : say`Sump seal, small (spare)`,
          1,
          'piece',
          stop,
        )
        add(
          'tool',
          `wrench-${node.housing}`,
          node.housing === 'sump-large' ? say`Housing wrench, large` : say`Housing wrench, small`,
          1,
          'piece',
          stop,
          true,
        )
      }
      const beside = BESIDE[node.media]
      for (const [key, count, unit] of beside?.consumables ?? []) add('consumable', key, VAN_ITEMS[key], count, unit, stop)
      for (const key of beside?.tools ?? []) add('tool', key, VAN_ITEMS[key], 1, 'piece', stop, true)
    }
  }
  const ticked = await scope.query<{ item: string; state: 'loaded' | 'short' }>(
    'select item, state from van_tick where firm_id = $1 and person_id = $2 and day between $3 and $4 order by ticked_at',
    [personId, from, to],
  )
  // Suppliers work from Monday to Friday, and not on the firm's holidays.
  const supplierDays = { ...MONDAY_TO_FRIDAY, off: (await calendarOf(scope, null)).off }
  for (const { item, state } of ticked) {
    const known = items.get(item)
    if (!known) continue
    known.state = state
    known.orderBy = state === 'short' ? workingDaysBefore(supplierDays, known.firstDay, LEAD_WORKING_DAYS) : null
  }
  const order: Item['kind'][] = ['part', 'chlorine', 'consumable', 'tool']
  return {
    from,
    to,
    items: [...items.values()].sort((a, b) => order.indexOf(a.kind) - order.indexOf(b.kind) || (a.name < b.name ? -1 : 1)),
  }
}

async function trainsOf(scope: FirmScope, systemIds: readonly string[]): Promise<Map<string, ReturnType<typeof stagesInFlow>>> {
  const rows = await scope.query<{ system_id: string; train: TrainVersion['train'] }>(
    `select v.system_id, v.train from train_version v join system on system.firm_id = v.firm_id and system.id = v.system_id
     and system.train_version = v.version where v.firm_id = $1 and v.system_id = any($2)`,
    [systemIds],
  )
  return new Map(rows.map(({ system_id, train }) => [system_id, stagesInFlow(train)]))
}

/** Ticks a thing as loaded or short, or takes the tick away. */
export async function tickVan(
  scope: FirmScope,
  personId: string,
  { day, key, state }: { day: string; key: string; state: 'loaded' | 'short' | null },
  now: Date,
): Promise<void> {
  if (state === null)
    await scope.query('delete from van_tick where firm_id = $1 and person_id = $2 and day = $3 and item = $4', [personId, day, key])
  else
    await scope.query(
      `insert into van_tick (firm_id, person_id, day, item, state, ticked_at) values ($1, $2, $3, $4, $5, $6)
       on conflict (firm_id, person_id, day, item) do update set state = excluded.state, ticked_at = excluded.ticked_at`,
      [personId, day, key, state, now],
    )
}
