import type { StageDueDto } from '@evenround/contract/wear'
import { type MediaLimits, ratedAs } from '@evenround/core/catalogue'
import { type CounterCount, type CounterReading, countLitres, litresSince } from '@evenround/core/readings'
import { type StageNode, stagesInFlow } from '@evenround/core/train'
import {
  type ExpectedUse,
  expectedUse,
  type Served,
  STAGE_VALUES,
  type StatedUse,
  type WearInput,
  type WearReading,
  type WearSchool,
  watersSeenBy,
} from '@evenround/core/wear'
import type { Firm } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { dayIn } from '../../time/zone'
import { ratedOf } from '../records/map'
import { type FirmProfiles, profilesOf } from './profiles'
import {
  counterReadingsOf,
  type DeviceDayRow,
  deviceDays,
  type FittedRow,
  fittedRows,
  grouped,
  type OccupancyRow,
  occupancyRows,
  type PairRow,
  type ReadingRow,
  type RemovedRow,
  readingRows,
  removedRows,
  type StageRow,
  stageRows,
  tdsPairs,
} from './rows'
import { type Chosen, chosenFor } from './rules'

/** Dirt past a stage leaves the next one this share of its expected rest. */
const CARRY_OVER_SHARE = 0.5
/** One part's time in a stage. */
export interface PartTime {
  fitted: FittedRow
  /** When it came out and how it was found; null while it is in, or where nobody wrote it down. */
  removed: RemovedRow | null
}

/** Everything known of a stage, ready for the model. */
export interface KnownStage {
  node: StageNode
  row: StageRow
  school: { inForce: WearSchool; from: 'stage' | 'site' | 'firm' }
  /** By which rule its part is to be changed. */
  rule: StageDueDto['rule']
  ruledAt: ReturnType<Chosen['ruledAt']>
  /** How much it is taken to see before anything is counted, and what was said of it. */
  use: { said: StatedUse; expected: ExpectedUse }
  times: PartTime[]
  /** Null when no part is known to be in it. */
  input: WearInput | null
  current: FittedRow | null
  /** Every part's time in it, as it was known then and as it is known today. */
  served: () => Served[]
}

interface SystemFacts {
  rows: StageRow[]
  fitted: Map<string, FittedRow[]>
  removed: Map<string, RemovedRow[]>
  pairs: PairRow[]
  readings: ReadingRow[]
  occupancy: OccupancyRow[]
  deviceDays: DeviceDayRow[]
}

interface Context {
  firm: Pick<Firm, 'timeZone' | 'schools' | 'spread'>
  today: string
}

interface Reading extends Context {
  profiles: FirmProfiles
  chosen: Chosen
  /** Day of an instant in the firm's zone. */
  day: (instant: Date) => string
}

function schoolOf(row: StageRow, firm: Context['firm']): KnownStage['school'] {
  if (row.stageSchool !== null) return { inForce: row.stageSchool, from: 'stage' }
  if (row.siteSchool !== null) return { inForce: row.siteSchool, from: 'site' }
  return { inForce: firm.schools.change, from: 'firm' }
}

/** A part's time ends at the first removal after its fitting, at or before the next fitting. Removals without a new part are washes. */
function timesOf(fitted: readonly FittedRow[], removed: readonly RemovedRow[]): PartTime[] {
  return fitted.map((one, index) => {
    const next = fitted[index + 1]
    const within = removed.filter(({ at }) => at > one.at && (next === undefined || at <= next.at))
    const replacing = within.filter(({ visitId }) => next !== undefined && visitId === next.visitId)
    return { fitted: one, removed: replacing.at(-1) ?? null }
  })
}

/** Days on which the part now in it came out and went back: nothing new was fitted at those visits. */
function washesOf(current: FittedRow, fitted: readonly FittedRow[], removed: readonly RemovedRow[]): Date[] {
  const withNewPart = new Set(fitted.map(({ visitId }) => visitId))
  return removed.filter(({ at, visitId }) => at > current.at && !withNewPart.has(visitId)).map(({ at }) => at)
}

const present = (values: Record<string, number | null>): Record<string, number> =>
  Object.fromEntries(Object.entries(values).filter((entry): entry is [string, number] => entry[1] !== null))

/** What a row reads besides the counter; nothing when that was all. */
function readingOf(on: string, row: ReadingRow): WearReading[] {
  let reading: WearReading | null = null
  for (const name of STAGE_VALUES) {
    const value = row[name]
    if (value !== null) reading = { ...(reading ?? { on }), [name]: value }
  }
  return reading === null ? [] : [reading]
}

/** TDS of one visit as this stage sees it, where it says anything. */
function pairOf(node: StageNode, behindMembrane: boolean, on: string, { feed, product }: PairRow): WearReading[] {
  const seen = watersSeenBy(node.media, behindMembrane, { untreated: feed, treated: product })
  return seen.feedTdsMgL === undefined ? [] : [{ on, ...seen }]
}

const atLeastADay = (from: string, to: string): boolean => to > from

function litresIn(counts: readonly CounterCount[], from: Date, to: Date): number | undefined {
  const until = litresSince(counts, from.getTime()).filter(({ atMs }) => atMs <= to.getTime() + 3_600_000)
  const last = until.at(-1)
  return last !== undefined && last.litres > 0 && last.atMs > to.getTime() - 14 * 86_400_000 ? last.litres : undefined
}

/** Whether everything of this train runs out of drinking taps: a sediment element there sees the tap's litres and not the house's. */
function tapsOnly({ train }: StageRow): boolean {
  const outlets = train.nodes.filter((node) => node.kind === 'outlet')
  return outlets.length > 0 && outlets.every(({ use }) => use === 'drinking' || use === 'ice')
}

function inputOf(
  node: StageNode,
  row: StageRow,
  facts: SystemFacts,
  times: readonly PartTime[],
  nodes: readonly StageNode[],
  said: StatedUse,
  context: Reading,
): Pick<KnownStage, 'input' | 'use'> {
  const { firm, today, day } = context
  const current = times.at(-1)?.fitted
  const profile = context.profiles.of(node.media)
  const own = current === undefined ? {} : present(ratedOf(current))
  // A part that came with no figure at all is rated as its medium is in this firm.
  const rated = Object.keys(own).length > 0 ? own : present(ratedAs(profile))
  const use = { said, expected: expectedUse({ media: node.media, rated, people: row.people }, row.kind, said, tapsOnly(row)) }
  if (current === undefined) return { input: null, use }
  const fittedOn = day(current.at)
  const looks = facts.readings.filter(({ stageId }) => stageId === row.stageId || stageId === null)
  const counts = countLitres(
    countedReadings(
      counterReadingsOf(looks),
      facts.deviceDays.filter(({ kind }) => kind === 'pulse-counter'),
    ),
  )
  const index = nodes.findIndex(({ id }) => id === node.id)
  const before = nodes[index - 1]
  const behindMembrane = nodes.slice(0, index).some(({ media }) => media === 'membrane')
  const since = <R extends { at: Date }>(rows: readonly R[]): R[] => rows.filter(({ at }) => at >= current.at)
  const readings: WearReading[] = [
    ...since(looks).flatMap((one) => readingOf(day(one.at), one)),
    ...since(facts.pairs).flatMap((one) => pairOf(node, behindMembrane, day(one.at), one)),
    ...(node.media === 'uv-lamp' ? lampReported(facts.deviceDays, current.at, day) : []),
    ...litresSince(counts, current.at.getTime()).map(({ atMs, litres }) => ({ on: day(new Date(atMs)), counterL: litres })),
  ]
  const past = times.slice(0, -1).flatMap((time) => pastOf(time, counts, day))
  const carryOver = since(before === undefined ? [] : (facts.removed.get(before.id) ?? []))
    .filter(({ dirtPast }) => dirtPast === true)
    .map(({ at }) => ({ on: day(at), share: CARRY_OVER_SHARE }))
  const washedOn = washesOf(current, facts.fitted.get(row.stageId) ?? [], facts.removed.get(row.stageId) ?? []).map(day)
  const input: WearInput = {
    today: today < fittedOn ? fittedOn : today,
    stage: {
      media: node.media,
      ...(node.own ? { causes: node.own.causes } : {}),
      fittedOn,
      ...(current.dateKnown ? {} : { ageUnknown: true }),
      rated,
      site: {
        people: row.people,
        source: row.source,
        ...(row.chlorineMgL === null ? {} : { chlorineMgL: row.chlorineMgL }),
        litresPerDay: use.expected.litresPerDay,
      },
      ...limitsOf(profile.limits, firm),
      ...(carryOver.length > 0 ? { carryOver } : {}),
      ...(washedOn.length > 0 ? { washedOn } : {}),
    },
    readings,
    past,
    occupancy: facts.occupancy.map(({ from, to, share }) => ({ from, to, share })),
    school: schoolOf(row, firm).inForce,
    ...(firm.spread ? { spread: firm.spread } : {}),
  }
  return { input, use }
}

/** A part that came out, as the next one learns from it; nothing where it was in for less than a day or nobody looked. */
function pastOf({ fitted, removed }: PartTime, counts: readonly CounterCount[], day: Reading['day']): WearInput['past'][number][] {
  if (removed === null) return []
  const [from, to] = [day(fitted.at), day(removed.at)]
  if (!atLeastADay(from, to)) return []
  const litres = litresIn(counts, fitted.at, removed.at)
  return [{ fittedOn: from, removedOn: to, found: removed.found, ...(litres === undefined ? {} : { litres }) }]
}

/** A counter that reports by itself is believed from its first day on, since it misses none; before it stand the looks at the door. */
function countedReadings(looks: readonly CounterReading[], days: readonly DeviceDayRow[]): CounterReading[] {
  const [first] = days
  if (first === undefined) return [...looks]
  const since = first.lastAt.getTime()
  const reported = days.map(({ lastAt, lastValue }) => ({
    atMs: lastAt.getTime(),
    displayL: lastValue,
    startedOver: false,
    otherCounter: lastAt.getTime() === since,
  }))
  return [...looks.filter(({ atMs }) => atMs < since), ...reported]
}

/** Hours a lamp's controller last reported, once the lamp that is in was set to nothing there. */
function lampReported(days: readonly DeviceDayRow[], fittedAt: Date, day: Reading['day']): WearReading[] {
  const last = days.findLast(({ kind, lastAt }) => kind === 'lamp-controller' && lastAt > fittedAt)
  const most = last === undefined ? 0 : (last.lastAt.getTime() - fittedAt.getTime()) / 3_600_000 + 24
  // More hours than it can have been lit are those of the lamp before: nobody reset the controller.
  return last === undefined || last.lastValue > most ? [] : [{ on: day(last.lastAt), lampHours: last.lastValue }]
}

/** The firm's limits; by its own baseline a membrane has no fixed floor. */
function limitsOf(all: MediaLimits, firm: Context['firm']): { limits?: MediaLimits } {
  const { passage, ...rest } = all
  const limits = firm.schools.membrane === 'fixed-floor' && passage !== undefined ? { ...rest, passage } : rest
  return Object.keys(limits).length > 0 ? { limits } : {}
}

function knownStages(facts: SystemFacts, context: Reading): KnownStage[] {
  const train = facts.rows[0]?.train
  if (!train) return []
  const nodes = stagesInFlow(train)
  return nodes.flatMap((node) => {
    const row = facts.rows.find(({ stageId }) => stageId === node.id)
    if (!row) return []
    const times = timesOf(facts.fitted.get(node.id) ?? [], facts.removed.get(node.id) ?? [])
    const said = context.chosen.useAt(row)
    const asOf = (count: number, today: string) => inputOf(node, row, facts, times.slice(0, count), nodes, said, { ...context, today })
    return [
      {
        node,
        row,
        school: schoolOf(row, context.firm),
        rule: context.chosen.ruleAt(row, node.media),
        ruledAt: context.chosen.ruledAt(row, node.media),
        times,
        current: times.at(-1)?.fitted ?? null,
        ...asOf(times.length, context.today),
        served: () => servedBy(times, asOf, context),
      },
    ]
  })
}

/** Each part's time, with what was known on the day it came out; what was found in all of them is known today. */
function servedBy(
  times: readonly PartTime[],
  asOf: (count: number, today: string) => Pick<KnownStage, 'input'>,
  { day, today }: Pick<Reading, 'day' | 'today'>,
): Served[] {
  const found = times.flatMap((time) => pastOf(time, [], day))
  return times.flatMap(({ removed }, index) => {
    const next = times[index + 1]
    const out = removed?.at ?? next?.fitted.at
    const removedOn = out === undefined ? null : day(out)
    const { input } = asOf(index + 1, removedOn ?? today)
    return input === null ? [] : [{ input, hindsight: { ...input, past: found }, removedOn }]
  })
}

/** What is known of every stage of these systems, by stage id, as of `today`. Reads in bulk: a whole firm costs eleven queries. */
export async function knownOfSystems(scope: FirmScope, systemIds: readonly string[], context: Context): Promise<Map<string, KnownStage>> {
  if (systemIds.length === 0) return new Map()
  const rows = await stageRows(scope, systemIds)
  const stageIds = rows.map(({ stageId }) => stageId)
  // In one go: each round to the database costs more than most of these answers.
  const [fittings, removals, allPairs, looks, lived, counted, chosen, profiles] = await Promise.all([
    fittedRows(scope, stageIds),
    removedRows(scope, stageIds),
    tdsPairs(scope, systemIds),
    readingRows(scope, systemIds),
    occupancyRows(scope, [...new Set(rows.map(({ siteId }) => siteId))]),
    deviceDays(scope, systemIds),
    chosenFor(scope, rows),
    profilesOf(scope),
  ])
  const fitted = grouped(fittings, ({ stageId }) => stageId)
  const removed = grouped(removals, ({ stageId }) => stageId)
  const pairs = grouped(allPairs, ({ systemId }) => systemId)
  const readings = grouped(looks, ({ systemId }) => systemId)
  const occupancy = grouped(lived, ({ siteId }) => siteId)
  const reported = grouped(counted, ({ systemId }) => systemId)
  const reading: Reading = {
    ...context,
    chosen,
    profiles,
    day: (instant) => dayIn(context.firm.timeZone, instant),
  }
  const known = new Map<string, KnownStage>()
  for (const [systemId, own] of grouped(rows, ({ systemId }) => systemId)) {
    const facts: SystemFacts = {
      rows: own,
      fitted,
      removed,
      pairs: pairs.get(systemId) ?? [],
      readings: readings.get(systemId) ?? [],
      occupancy: occupancy.get(own[0]?.siteId ?? '') ?? [],
      deviceDays: reported.get(systemId) ?? [],
    }
    for (const stage of knownStages(facts, reading)) known.set(stage.node.id, stage)
  }
  return known
}

/** The part now in a stage, as screens show it; null where none is known. */
export function partInService({ current }: KnownStage, timeZone: string) {
  if (current === null) return null
  const { partNumber, at, dateKnown } = current
  return { partNumber, fittedOn: dayIn(timeZone, at), dateKnown, rated: ratedOf(current) }
}
