import type { YearAsk, YearPage, YearPlanDto, YearWhatIf, YearWork, YearWorked } from '@evenround/contract/year-page'
import { daysBetween } from '@evenround/core/units'
import { many, say } from '@evenround/core/words'
import { weekOf } from '@evenround/core/year'
import { Firm, Person, Site } from '../../db/entities/master'
import { Place, WorkTimeRow } from '../../db/entities/round'
import { YearPlanRow } from '../../db/entities/year'
import type { FirmScope } from '../../db/scope'
import type { Who } from '../../http/env'
import { ApiError, badInput, notFound } from '../../http/errors'
import { dayIn } from '../../time/zone'
import { currentYear, currentYearId } from '../round/year-in-force'
import { crossingsOf } from '../travel/crossings'
import type { TravelService } from '../travel/service'
import { sitePlaces } from '../travel/site-places'
import { type YearDeps, yearFacts, yearKnown } from './input'

/** Plans in force and those before them, to be gone back to one by one. */
const MOST_APPLIED = 6

/** What a screen shows of a plan; what it was made of stays where it is. */
type Shown = Pick<YearPlanRow, 'id' | 'kind' | 'state' | 'whatIf' | 'shown' | 'madeBy' | 'madeAt' | 'settledAt'>
async function shownYear(scope: FirmScope, state: 'offered' | 'applied'): Promise<Shown | null> {
  const [row] = await scope.query<Shown>(
    `select id, kind, state, what_if as "whatIf", shown, made_by as "madeBy", made_at as "madeAt", settled_at as "settledAt" from year_plan
     where firm_id = $1 and state = $2 order by settled_at desc nulls last, made_at desc, id desc limit 1`,
    [state],
  )
  return row ?? null
}

/** What is to be worked on; refused where it names what is not there. */
export async function yearWork(scope: FirmScope, deps: YearDeps, ask: YearAsk): Promise<YearWork> {
  if (ask.kind === 'move') {
    const row = await scope.findOne(YearPlanRow, { id: ask.planId })
    if (!row) throw notFound('plan of the year')
    const { today } = await yearDay(scope, deps.now)
    if (row.known.today !== today) throw new ApiError('CONFLICT', say`This plan is of another day. Plan the year again first.`)
    const move = { chains: ask.chains, from: weekOf(row.fromDay, ask.from), to: weekOf(row.fromDay, ask.to), visits: row.visits }
    return { known: row.known, asIs: null, current: null, move }
  }
  const whatIf = ask.kind === 'what-if' ? ask.whatIf : null
  if (whatIf !== null) await refuseUnknown(scope, deps.travel, whatIf)
  const plan = await currentYear(scope)
  const facts = await yearFacts(scope, deps, whatIf)
  return {
    ...(ask.kind === 'here' ? { given: { from: ask.from, visits: ask.visits } } : {}),
    known: yearKnown(facts, whatIf),
    asIs: whatIf === null ? null : yearKnown(facts, null),
    current: plan && { from: plan.fromDay, visits: plan.visits },
    move: null,
  }
}

async function refuseUnknown(scope: FirmScope, travel: TravelService, whatIf: YearWhatIf): Promise<void> {
  if (whatIf.kind === 'customers' && !(await scope.findOne(Site, { id: whatIf.likeSiteId })))
    throw badInput([{ path: 'whatIf.likeSiteId', message: say`expected a site of this firm` }])
  if ('personId' in whatIf && !(await scope.findOne(WorkTimeRow, { id: whatIf.personId })))
    throw badInput([{ path: 'whatIf.personId', message: say`expected somebody with working times` }])
  if (whatIf.kind === 'crossing' && !(await crossingsToStop(scope, travel)).some(({ id }) => id === whatIf.crossingId))
    throw badInput([{ path: 'whatIf.crossingId', message: say`expected a crossing this firm takes` }])
  if ('base' in whatIf && !(await scope.findOne(Place, { id: whatIf.base })))
    throw badInput([{ path: 'whatIf.base', message: say`expected a place the firm keeps` }])
}

/** The firm's own crossings and those of the map. */
async function crossingsToStop(scope: FirmScope, travel: TravelService): Promise<{ id: string; name: string }[]> {
  const [own, places] = await Promise.all([crossingsOf(scope), sitePlaces(scope)])
  return [...own.map(({ id, name }) => ({ id, name })), ...travel.crossings(places.known)]
}

/** A device plans years of firms so large at most: more is a large file to bring, and a long wait on a phone. */
const MOST_ON_A_DEVICE = 3000

/** What a device plans this year from where there is no network; null where it is too much for one. */
export async function yearForDevice(scope: FirmScope, deps: YearDeps): Promise<YearWork | null> {
  const work = await yearWork(scope, deps, { id: '', kind: 'even' })
  return work.known.input.chains.length > MOST_ON_A_DEVICE ? null : work
}

/** Keeps a plan as offered, beside the last that were applied: there is one to decide about. */
export async function offer(scope: FirmScope, ask: YearAsk, worked: YearWorked, who: Pick<Who, 'personId'>, now: Date): Promise<void> {
  if (await scope.findOne(YearPlanRow, { id: ask.id })) return
  await scope.query(
    `delete from year_plan where firm_id = $1 and id not in
       (select id from year_plan where firm_id = $1 and state = 'applied' order by settled_at desc, id desc limit ${MOST_APPLIED})`,
  )
  await scope.insert(YearPlanRow, {
    id: ask.id,
    kind: ask.kind === 'here' ? 'even' : ask.kind,
    state: 'offered',
    fromDay: worked.known.from,
    whatIf: ask.kind === 'what-if' ? ask.whatIf : null,
    known: worked.known,
    visits: worked.visits,
    shown: worked.shown,
    madeBy: who.personId,
    madeAt: now,
    settledAt: null,
    earlierBase: null,
  })
}

/** Puts a plan to work; with it what it takes to be otherwise, where the program can change that. */
export async function applyYear(scope: FirmScope, id: string, now: Date): Promise<void> {
  const row = await scope.findOne(YearPlanRow, { id })
  if (!row || row.state === 'discarded') throw notFound('plan of the year')
  if (row.state === 'applied') return
  const why = whyNot(row.whatIf)
  if (why !== '') throw new ApiError('CONFLICT', why)
  let earlierBase: string | null = null
  if (row.whatIf?.kind === 'base') {
    const times = await scope.findOne(WorkTimeRow, { id: row.whatIf.personId })
    if (!times) throw notFound('person')
    earlierBase = times.base
    await moveBase(scope, times, row.whatIf.base)
  }
  await scope.update(YearPlanRow, { id }, { state: 'applied', settledAt: now, earlierBase })
}

const moveBase = (scope: FirmScope, { id, version }: WorkTimeRow, base: string): Promise<unknown> =>
  scope.update(WorkTimeRow, { id }, { base, version: version + 1 })

/** Takes the plan in force back: the one applied before it is in force again, and so is the base it moved, unless somebody moved that since. */
export async function undoYear(scope: FirmScope, id: string): Promise<void> {
  if ((await currentYearId(scope)) !== id) throw new ApiError('CONFLICT', say`This plan is not the one in force any more.`)
  const row = await scope.findOne(YearPlanRow, { id })
  if (row?.whatIf?.kind === 'base' && row.earlierBase !== null) {
    const times = await scope.findOne(WorkTimeRow, { id: row.whatIf.personId })
    if (times?.base === row.whatIf.base) await moveBase(scope, times, row.earlierBase)
  }
  await scope.update(YearPlanRow, { id }, { state: 'undone' })
}

export async function discardYear(scope: FirmScope, id: string): Promise<void> {
  const row = await scope.findOne(YearPlanRow, { id })
  if (!row) throw notFound('plan of the year')
  if (row.state === 'offered') await scope.update(YearPlanRow, { id }, { state: 'discarded' })
}

/** Why a plan of a year as it would be cannot be put to work by itself; empty where it can. */
function whyNot(whatIf: YearWhatIf | null): string {
  switch (whatIf?.kind) {
    case 'customers':
      return say`These customers are not there yet. Add their sites, then plan the year.`
    case 'person-less':
      return say`Enter when they are away, or switch their account off, then plan the year.`
    case 'person-more':
      return say`Invite them and set their working times, then plan the year.`
    case 'crossing':
      return say`Enter under crossings when it does not run, then plan the year.`
    case 'contract':
      return say`Choose “by contract” under Rules, then plan the year.`
    default:
      return ''
  }
}

async function titleOf(
  scope: FirmScope,
  crossings: YearPage['crossings'],
  { kind, whatIf }: Shown,
  names: ReadonlyMap<string, string>,
): Promise<string> {
  if (kind === 'move') return say`Some work moved`
  const placeName = async (id: string): Promise<string> => (await scope.findOne(Place, { id }))?.name ?? id
  switch (whatIf?.kind) {
    case 'customers': {
      const like = await scope.findOne(Site, { id: whatIf.likeSiteId })
      return say`${whatIf.count} more customers like ${like?.name ?? ''}`
    }
    case 'person-less':
      return say`Without ${names.get(whatIf.personId) ?? ''}`
    case 'person-more':
      return say`One more person, from ${await placeName(whatIf.base)}`
    case 'base':
      return say`${names.get(whatIf.personId) ?? ''} from ${await placeName(whatIf.base)}`
    case 'crossing': {
      const crossing = crossings.find(({ id }) => id === whatIf.crossingId)
      const weeks = Math.max(1, Math.round((daysBetween(whatIf.fromDay, whatIf.toDay) + 1) / 7))
      return say`${crossing?.name ?? say`A crossing`} stops for ${many(weeks, 'week', 'weeks')}`
    }
    case 'contract':
      return say`Everything every ${whatIf.months} months by contract`
    default:
      return say`The year`
  }
}

async function dtoOf(
  scope: FirmScope,
  crossings: YearPage['crossings'],
  row: Shown,
  names: ReadonlyMap<string, string>,
): Promise<YearPlanDto> {
  const why = whyNot(row.whatIf)
  return {
    id: row.id,
    kind: row.kind,
    madeAt: row.madeAt.toISOString(),
    byName: names.get(row.madeBy) ?? '',
    appliedAt: row.state === 'applied' ? (row.settledAt?.toISOString() ?? null) : null,
    title: await titleOf(scope, crossings, row, names),
    mayApply: why === '',
    whyNot: why,
    ...row.shown,
  }
}

async function yearDay(scope: FirmScope, now: Date): Promise<{ firm: Firm; today: string }> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  return { firm, today: dayIn(firm.timeZone, now) }
}

/** The plan in force and the one somebody offers, with what can be asked of a year. */
export async function yearPage(scope: FirmScope, { travel, now }: YearDeps): Promise<YearPage> {
  const { firm, today } = await yearDay(scope, now)
  const [current, offered, people, times, places, crossings] = await Promise.all([
    shownYear(scope, 'applied'),
    shownYear(scope, 'offered'),
    scope.find(Person, {}, { name: 'ASC' }),
    scope.find(WorkTimeRow),
    scope.find(Place, {}, { name: 'ASC' }),
    crossingsToStop(scope, travel),
  ])
  const names = new Map(people.map(({ id, name }) => [id, name]))
  const baseOf = new Map(times.map(({ id, base }) => [id, base]))
  return {
    today,
    current: current && (await dtoOf(scope, crossings, current, names)),
    offered: offered && (await dtoOf(scope, crossings, offered, names)),
    currency: firm.currency,
    hourMinor: firm.roundTerms.hourMinor,
    people: people.flatMap(({ id, name, active }) => {
      const base = baseOf.get(id) ?? null
      return active && base !== null ? [{ id, name, base }] : []
    }),
    places: places.map(({ id, name }) => ({ id, name })),
    crossings,
  }
}
