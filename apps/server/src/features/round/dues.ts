import type { RoundTerms } from '@evenround/contract/rounds'
import type { Medium } from '@evenround/core/catalogue'
import { type ComingDue, comingDue, type DueStage, taskKg, taskMinutes } from '@evenround/core/round/group'
import { type Action, actionsFor, stagesInFlow, type Train } from '@evenround/core/train'
import { addDays, daysBetween, monthOf } from '@evenround/core/units'
import type { Due } from '@evenround/core/wear'
import type { FirmScope } from '../../db/scope'
import { lateWorthOf, profilesOf } from '../wear/profiles'

/** A stage as the round sees it. */
export interface RoundStage {
  stageId: string
  systemId: string
  systemName: string
  /** The plumbing of its system, one object for all its stages. */
  train: Train
  siteId: string
  position: number
  media: Medium
  action: Action
  partNumber: string | null
  /** Of the part that a change uses up; nothing where the work has none. */
  priceMinor: number
  /** Null where nothing rates what is in it. */
  due: ComingDue | null
  /** What a day past the end costs, in days of life. */
  lateWorth: number
}

interface Row {
  stage_id: string
  system_id: string
  system_name: string
  site_id: string
  train: Train
  part_number: string | null
  price_minor: number | null
  fitted_on: string | null
  due_on: string | null
  window_from: string
  window_to: string
  due: Due
  days: number[]
  survival: number[]
}

/** Every stage of the firm with its next due day and what leaving that day costs. */
export async function roundStages(scope: FirmScope, terms: RoundTerms): Promise<RoundStage[]> {
  const rows = await scope.query<Row>(
    `select stage.id as stage_id, system.id as system_id, system.name as system_name, site.id as site_id, v.train, part.part_number,
       part.price_minor, f.fitted_on::text, f.due_on::text, f.window_from::text, f.window_to::text, f.due, to_json(f.days) as days, to_json(f.survival) as survival
     from stage
     join system on system.firm_id = stage.firm_id and system.id = stage.system_id and system.gone_at is null
     join site on site.firm_id = system.firm_id and site.id = system.site_id and site.gone_at is null
     join train_version v on v.firm_id = system.firm_id and v.system_id = system.id and v.version = system.train_version
     left join part on part.firm_id = stage.firm_id and part.id = stage.next_part_id
     left join stage_forecast f on f.firm_id = stage.firm_id and f.stage_id = stage.id
     where stage.firm_id = $1 order by stage.id`,
  )
  const profiles = await profilesOf(scope)
  const trains = new Map<string, Train>()
  const flows = new Map<Train, ReturnType<typeof stagesInFlow>>()
  return rows.flatMap((row): RoundStage[] => {
    const flow = flows.get(row.train) ?? stagesInFlow(row.train)
    flows.set(row.train, flow)
    const node = flow.find(({ id }) => id === row.stage_id)
    if (!node) return []
    const action = actionsFor(node)[0] as Action
    const lateWorth = lateWorthOf(profiles, node.media)
    if (!trains.has(row.system_id)) trains.set(row.system_id, row.train)
    return [
      {
        stageId: row.stage_id,
        systemId: row.system_id,
        systemName: row.system_name,
        train: trains.get(row.system_id) ?? row.train,
        siteId: row.site_id,
        position: flow.indexOf(node) + 1,
        media: node.media,
        action,
        partNumber: row.part_number,
        priceMinor: usesPart(action) ? (row.price_minor ?? 0) : 0,
        lateWorth,
        due: dueOfRow(row, { media: node.media, lateWorth }, action, terms),
      },
    ]
  })
}

/** A change after the next one is known to this share of its interval at the best. */
const LATER_BY_SHARE = 0.2

const usesPart = (action: Action): boolean => action === 'change' || action === 'refill'

/** A change costs its part and its work; the work of washing and cleaning has no part. */
function dueOfRow(
  row: Row,
  { media, lateWorth }: Pick<RoundStage, 'media' | 'lateWorth'>,
  action: Action,
  terms: RoundTerms,
): RoundStage['due'] {
  const { due_on: dueOn, fitted_on: fittedOn, due } = row
  if (dueOn === null || fittedOn === null) return null
  // A contract's month is a promise: any day of it keeps it, and none before or after.
  const held = due.setBy === 'contract'
  const { from: windowFrom, to: windowTo } = held
    ? monthOf(dueOn)
    : { from: row.window_from < dueOn ? row.window_from : dueOn, to: row.window_to }
  const curve = { fittedOn, days: row.days, survival: row.survival }
  const partMin = usesPart(action) ? ((row.price_minor ?? 0) * 60) / terms.hourMinor : 0
  return comingDue(curve, { dueOn, windowFrom, windowTo, changeMin: partMin + taskMinutes(action, media), lateWorth, held })
}

/** A change of a stage within a stretch: days as ISO days, the first one or one after it by the stage's usual interval. */
export interface Occurrence {
  stage: RoundStage
  times: number
  dueOn: string
  windowFrom: string
  windowTo: string
}

/** The changes a stage wants until `until`, reckoned from `from` where it is overdue. */
export function occurrences(stage: RoundStage, from: string, until: string): Occurrence[] {
  const { due } = stage
  if (due === null) return []
  const all: Occurrence[] = []
  const start = due.dueOn < from ? from : due.dueOn
  for (let times = 0; ; times++) {
    const by = times * due.everyDays
    const dueOn = addDays(times === 0 ? due.dueOn : start, by)
    if (dueOn > until && addDays(due.windowFrom, by) > until) return all
    if (dueOn > until) return all
    const shift = daysBetween(due.dueOn, dueOn)
    const wide = times === 0 ? 0 : Math.round(due.everyDays * LATER_BY_SHARE)
    const windowFrom = addDays(due.windowFrom < due.dueOn ? due.windowFrom : due.dueOn, shift - wide)
    all.push({ stage, times, dueOn, windowFrom, windowTo: addDays(due.windowTo, shift + wide) })
  }
}

/** Wear goes on over the weekend; a round counts working days. */
const DAYS_A_WORKING_DAY = 7 / 5

/** The first working day at or after an ISO day, where `index` gives the last one at or before. */
export const firstFrom = (index: (day: string) => number, day: string): number => index(addDays(day, -1)) + 1

/** As grouping takes it, with days as indices that `index` gives: the last working day at or before an ISO day. */
export function asDueStage({ stage, times, dueOn, windowFrom, windowTo }: Occurrence, index: (day: string) => number): DueStage {
  const { due, action, media } = stage
  const earlyPerDay = due === null ? 0 : windowFrom < due.windowFrom ? due.soonerPerDay : due.earlyPerDay
  const [first, last] = [firstFrom(index, windowFrom), index(windowTo)]
  return {
    id: `${stage.stageId}/${times}`,
    stage: stage.stageId,
    system: stage.systemId,
    dueDay: index(dueOn),
    // From the first working day of the window on; where it has none, on the last one before it.
    windowDays: [Math.min(first, last), last],
    latePerDay: (due?.latePerDay ?? 0) * DAYS_A_WORKING_DAY,
    earlyPerDay: earlyPerDay * DAYS_A_WORKING_DAY,
    workMin: taskMinutes(action, media),
    loadKg: taskKg(action, media),
  }
}
