import type { PlaceDto } from '@evenround/contract/rounds'
import { type DriveMade, driveMinutes, learnPace, NOT_TODAY_MIN, type Pace, sailingOf, type Travel } from '@evenround/core/round/roads'
import { Firm, Site } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { minuteIn } from '../../time/zone'
import { counting } from '../records/counting'
import { factsStand, perFirm } from '../records/per-firm'
import { crossingsOf } from './crossings'
import { type Asked, plainTravel } from './plain'
import { roadBook } from './roads/book'
import type { TravelService } from './service'
import { sitePlaces } from './site-places'

/** The newest drives say how roads are now; so many are looked at. */
const MOST_DRIVES = 4000

interface DriveRow {
  from_site: string
  to_site: string
  left_at: Date
  minutes: number
}

const remembered = perFirm<Pace | null>(200)

/**
 * What the drives that were really made say about a firm's ways: from the end of a visit to the arrival at the next, of the same person on
 * the same day, within one area. Of all its places, whichever are asked about: a day and the round it is of drive alike. Worked out anew only
 * when a visit was begun or ended since, or the ways are others. Null where they say nothing.
 */
export async function paceOf(scope: FirmScope, service: TravelService, { now, winding }: Asked): Promise<Pace | null> {
  const [stands, crossings, book] = await Promise.all([
    factsStand(scope, ['fact_visit_begun', 'fact_visit_finished']),
    crossingsOf(scope),
    roadBook(scope),
  ])
  if (stands.some(({ n }) => n === '0')) return null
  const of = JSON.stringify([stands, service.version, winding, crossings, book?.version ?? null])
  return remembered(scope.firmId, of, async () => {
    const sites = (await scope.find(Site, {}, { id: 'ASC' })).filter(({ goneAt }) => goneAt === null)
    const whereIs = await sitePlaces(scope)
    const places = whereIs.among(sites)
    const travel = await plainTravel(scope, service, places, { now, winding })
    const placeOf = new Map(sites.map((site) => [site.id, whereIs.of(site)?.id]))
    const learned = learnPace(await drivesOver(scope, places, placeOf, travel))
    return learned && saysSomething(learned) ? learned : null
  })
}

/** Less than this off the known ways is not worth telling the hours apart for. */
const LEAST_CHANGE = 0.04
const saysSomething = ({ areas, elsewhere }: Pace): boolean =>
  [elsewhere, ...Object.values(areas)].some((factors) => factors.some((factor) => Math.abs(factor - 1) >= LEAST_CHANGE))

async function drivesOver(
  scope: FirmScope,
  places: readonly PlaceDto[],
  placeOf: ReadonlyMap<string, string | undefined>,
  travel: Travel,
): Promise<DriveMade[]> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  const island = new Map(places.map((place) => [place.id, place.island]))
  const rows = await scope.query<DriveRow>(
    `select * from (
       select lag(y.site_id) over one as from_site, f.at, y.site_id as to_site, lag(done.at) over one as left_at,
         extract(epoch from f.at - lag(done.at) over one)::float8 / 60 as minutes
       from fact_visit_begun f
       join system y on y.firm_id = $1 and y.id = f.system_id
       join fact_visit_finished done on done.firm_id = $1 and done.visit_id = f.visit_id and not done.voided and done.at >= f.at
       where f.firm_id = $1 and ${counting('fact_visit_begun')}
       window one as (partition by f.person_id order by f.at)
     ) drive where from_site is not null and from_site <> to_site and minutes between 1 and 300
     order by at desc limit ${MOST_DRIVES}`,
  )
  return rows.flatMap(({ from_site, to_site, left_at, minutes }) => {
    const [from, to] = [placeOf.get(from_site), placeOf.get(to_site)]
    const area = from === undefined ? undefined : island.get(from)
    if (from === undefined || to === undefined || area === undefined || island.get(to) !== area) return []
    const { minute: leaveMin } = minuteIn(firm.timeZone, left_at)
    // What catches a ferry keeps its timetable, and what waits for water its tide.
    if (sailingOf(travel, from, to, leaveMin) !== null) return []
    const plainMin = driveMinutes(travel, from, to, leaveMin)
    return plainMin > 0 && plainMin < NOT_TODAY_MIN ? [{ area, leaveMin, tookMin: minutes, plainMin }] : []
  })
}
