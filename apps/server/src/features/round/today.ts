import type { TodaySpotDto, todayAskSchema, todayPutSchema } from '@evenround/contract/rounds'
import { driveMinutes, type Travel, travelOn, USUAL_WINDING } from '@evenround/core/round/roads'
import { spotsToday, type TodayLine, type TodaySpot } from '@evenround/core/round/today'
import { say } from '@evenround/core/words'
import type { z } from 'zod'
import { Firm, Site, Stop, StopTask, System, TrainVersion } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { ApiError, badInput, notFound } from '../../http/errors'
import { dayIn, minuteIn } from '../../time/zone'
import { visitsOfStops } from '../facts/read'
import { soundTasks } from '../facts/sound-tasks'
import { teamOf } from '../times/team'
import { travelBetween } from '../travel/matrix'
import { sitePlaces } from '../travel/site-places'
import type { SetDeps } from './set'
import { skillsFor } from './visits'

interface Line {
  technicianId: string
  name: string
  line: TodayLine
  open: Stop[]
}
interface TodayRound {
  day: string
  lines: Line[]
  siteNames: Map<string, string>
  travel: Travel
  place: string
  system: System
}

/** Who is on the road today, what is left of their days, and where the new stop lies. */
async function roundToday(scope: FirmScope, { travel: service, now }: SetDeps, systemId: string): Promise<TodayRound> {
  const firm = await scope.findOne(Firm, {})
  const system = await scope.findOne(System, { id: systemId })
  if (!firm || !system || system.goneAt !== null) throw notFound('system')
  const day = dayIn(firm.timeZone, now)
  const { minute } = minuteIn(firm.timeZone, now)
  const sites = new Map((await scope.find(Site)).map((site) => [site.id, site]))
  const whereIs = await sitePlaces(scope)
  const today = (await scope.find(Stop, { day })).flatMap(({ siteId }) => sites.get(siteId) ?? [])
  const places = whereIs.among([...today, ...[sites.get(system.siteId)].flatMap((one) => one ?? [])])
  const ways = await travelBetween(scope, service, places, { now, winding: firm.roundTerms.winding ?? USUAL_WINDING })
  const travel = travelOn(ways, day)
  const placeOf = (siteId: string): string | undefined => {
    const site = sites.get(siteId)
    return site && whereIs.of(site)?.id
  }
  const site = sites.get(system.siteId)
  const place = placeOf(system.siteId)
  if (!site || place === undefined)
    throw badInput([{ path: 'systemId', message: say`nobody has said where this site is: put its coordinates on the site’s page` }])
  const skills = skillsFor(site)
  const { technicians, atWork } = await teamOf(scope, day)
  const lines: Line[] = []
  for (const one of technicians) {
    if (!atWork.has(one.id) || !skills.every((skill) => one.skills.includes(skill))) continue
    const stops = await scope.find(Stop, { technicianId: one.id, day }, { orderNo: 'ASC' })
    const visits = await visitsOfStops(
      scope,
      stops.map(({ id }) => id),
    )
    const begun = stops.filter(({ id }) => visits.has(id))
    const last = begun.at(-1)
    const open = stops.filter(({ id }) => !visits.has(id))
    const atLast = last && !visits.get(last.id)?.finished ? Math.max(minute, last.arriveMin + last.workMin) : minute
    lines.push({
      technicianId: one.id,
      name: one.name,
      open,
      line: {
        from: (last && placeOf(last.siteId)) ?? one.base,
        freeMin: Math.max(atLast, one.fromMin),
        base: one.base,
        toMin: one.toMin,
        stops: open.map(({ id, siteId, workMin, promiseFrom, promiseTo }) => ({
          id,
          place: placeOf(siteId) ?? one.base,
          workMin,
          promise: promiseFrom !== null && promiseTo !== null ? [promiseFrom, promiseTo] : null,
        })),
      },
    })
  }
  const siteNames = new Map([...sites].map(([id, { name }]) => [id, name]))
  return { day, lines, siteNames, travel, place, system }
}

const spotsOf = ({ travel, place }: TodayRound, { line }: Line, id: string, workMin: number): TodaySpot[] =>
  spotsToday(line, { id, place, workMin, promise: null }, (from, to, leaveMin) => driveMinutes(travel, from, to, leaveMin))

/** The day ends here: what would come home later is offered to nobody. */
const LATEST_HOME_MIN = 24 * 60
const MOST_SPOTS = 6

/** Where a stop could go into today, the cheapest first: of each person the best places. */
export async function todaySpots(
  scope: FirmScope,
  deps: SetDeps,
  { systemId, workMin }: z.output<typeof todayAskSchema>,
): Promise<TodaySpotDto[]> {
  const round = await roundToday(scope, deps, systemId)
  const { siteNames } = round
  return round.lines
    .flatMap((line) =>
      spotsOf(round, line, 'new', workMin)
        .filter(({ homeMin }) => homeMin < LATEST_HOME_MIN)
        .map(({ at, arriveMin, homeMin, extraDriveMin, overtimeMin, late, costMin }) => ({
          technicianId: line.technicianId,
          name: line.name,
          at,
          afterSite: at === 0 ? null : (siteNames.get(line.open[at - 1]?.siteId ?? '') ?? null),
          arriveMin: Math.round(arriveMin),
          homeMin: Math.round(homeMin),
          extraDriveMin: Math.round(extraDriveMin),
          overtimeMin: Math.round(overtimeMin),
          late: late.map(({ id, byMin }) => ({
            siteName: siteNames.get(line.open.find((stop) => stop.id === id)?.siteId ?? '') ?? '',
            byMin: Math.round(byMin),
          })),
          costMin,
        })),
    )
    .sort((a, b) => a.costMin - b.costMin)
    .slice(0, MOST_SPOTS)
}

/** Puts a stop into somebody's day of today and moves the hours of what follows; what is begun stays. Sent twice it is one stop. */
export async function putToday(
  scope: FirmScope,
  deps: SetDeps,
  { id, systemId, workMin, technicianId, at, tasks }: z.output<typeof todayPutSchema>,
): Promise<{ id: string }> {
  if (await scope.findOne(Stop, { id })) return { id }
  const system = await scope.findOne(System, { id: systemId })
  const stored = system && (await scope.findOne(TrainVersion, { systemId, version: system.trainVersion }))
  if (!stored) throw notFound('system')
  soundTasks(stored.train, tasks)
  const round = await roundToday(scope, deps, systemId)
  const line = round.lines.find((one) => one.technicianId === technicianId)
  if (!line) throw new ApiError('CONFLICT', say`They are not on the road today, or not allowed there.`)
  const spot = spotsOf(round, line, id, workMin).find((one) => one.at === at)
  if (!spot || spot.homeMin >= LATEST_HOME_MIN)
    throw new ApiError('CONFLICT', say`Their day has changed meanwhile. Look for a place again.`)
  const first = line.open[0]?.orderNo ?? (await lastOrder(scope, technicianId, round.day)) + 1
  for (const [index, leg] of spot.legs.entries()) {
    const times = {
      orderNo: first + index,
      leaveMin: Math.round(leg.leaveMin),
      travelMin: Math.round(leg.travelMin),
      wayEstimated: round.travel.estimated === true,
      arriveMin: Math.round(leg.arriveMin),
    }
    const last = index === spot.legs.length - 1
    const homeMin = last
      ? Math.round(spot.homeMin - leg.arriveMin - (leg.id === id ? workMin : (stopOf(line, leg.id)?.workMin ?? 0)))
      : null
    if (leg.id === id)
      await scope.insert(Stop, {
        id,
        siteId: round.system.siteId,
        systemId,
        technicianId,
        day: round.day,
        workMin,
        ferryAt: null,
        promised: false,
        version: 1,
        homeMin,
        ...times,
      })
    else await scope.update(Stop, { id: leg.id }, { ...times, homeMin, version: (stopOf(line, leg.id)?.version ?? 0) + 1 })
  }
  if (tasks.length > 0)
    await scope.insert(
      StopTask,
      tasks.map(({ stageId, action }) => ({ stopId: id, stageId, action })),
    )
  return { id }
}

const stopOf = ({ open }: Line, id: string): Stop | undefined => open.find((stop) => stop.id === id)

async function lastOrder(scope: FirmScope, technicianId: string, day: string): Promise<number> {
  return (await scope.find(Stop, { technicianId, day }, { orderNo: 'ASC' })).at(-1)?.orderNo ?? 0
}
