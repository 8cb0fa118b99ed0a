import type { AlarmDto, OfficeDto, RoadDayDto, RoadStopDto } from '@evenround/contract/office'
import { HOLD_ORDER, SAFETY_HOLDS } from '@evenround/core/visit'
import { In, IsNull } from 'typeorm'
import { Site } from '../db/entities/master'
import { WorkTimeRow } from '../db/entities/round'
import type { FirmScope } from '../db/scope'
import { openFaults } from '../features/facts/from-the-door'
import { holdsOn } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import { silentDevices } from '../features/telemetry/store'
import { USUAL_TIMES } from '../features/times/team'
import { adviceCounts, lateCounts, lateParts } from '../features/wear/due'
import { dayIn } from '../time/zone'
import { scoreOf } from './score'
import { homeMin } from './stops'

interface JobOfHold {
  hold: string
  job: string
  stand: string
  known_at: Date
}

/** Germs found by the laboratory, whatever was said when the hold began. */
const isFound = (stand: string): stand is 'positive' | 'e-coli' => stand === 'positive' || stand === 'e-coli'

/**
 * Safety holds that want somebody now: germs were found, or nobody was told. The findings first, then the strictest and oldest. One that
 * was told and only waits for its time or its result wants nothing.
 */
async function alarms(scope: FirmScope, now: Date): Promise<AlarmDto[]> {
  const held = await scope.query<{ id: string }>(
    'select distinct site_id as id from fact_hold_begun where firm_id = $1 and hold_kind = any($2)',
    [SAFETY_HOLDS],
  )
  const sites = await scope.find(Site, { id: In(held.map(({ id }) => id)), goneAt: IsNull() })
  const byId = new Map(sites.map((site) => [site.id, site]))
  const holds = await holdsOn(scope, [...byId.keys()], now)
  const rows = await scope.query<JobOfHold>(
    `select f.id as hold, d.id as job, d.stand, coalesce((select max(r.at) from fact_sample_result r where r.firm_id = d.firm_id and r.visit_id = d.id and not r.voided), d.changed_at) as known_at
     from fact_hold_begun f
     join disinfection d on d.firm_id = f.firm_id and d.id = f.visit_id where f.firm_id = $1 and f.id = any($2)`,
    [[...holds.values()].flatMap((own) => own.map(({ id }) => id))],
  )
  const jobs = new Map(rows.map((row) => [row.hold, row]))
  const all = [...holds].flatMap(([siteId, own]) => {
    const site = byId.get(siteId)
    if (!site) return []
    const on = own.filter(({ holdKind, until }) => SAFETY_HOLDS.includes(holdKind) && (until === null || Date.parse(until) > now.getTime()))
    return on.flatMap((hold): AlarmDto[] => {
      const job = jobs.get(hold.id)
      const found = job && isFound(job.stand) ? { what: job.stand, at: job.known_at.toISOString() } : null
      // What was said before the result was known told nobody of it.
      const told = hold.told && (found === null || hold.told.at >= found.at) ? hold.told : null
      if (found === null && told !== null && told.how !== 'nobody-reached') return []
      return [
        { siteId, siteName: site.name, contact: site.contact, phone: site.phone, hold: { ...hold, told }, jobId: job?.job ?? null, found },
      ]
    })
  })
  const order = ({ found, hold }: AlarmDto): number => (found === null ? 10 : 0) + HOLD_ORDER.indexOf(hold.holdKind)
  return all.sort((a, b) => order(a) - order(b) || a.hold.begunAt.localeCompare(b.hold.begunAt))
}

interface StopRow {
  id: string
  technician_id: string
  person: string
  site_name: string
  leave_min: number
  arrive_min: number
  work_min: number
  travel_min: number
  home_min: number | null
  order_no: number
  promise_from: number | null
  promise_to: number | null
  state: RoadStopDto['state']
  heard_at: Date | null
}

/** Everybody who drives today, each with the stops of the day and how far they are. */
async function road(scope: FirmScope, day: string): Promise<RoadDayDto[]> {
  const rows = await scope.query<StopRow>(
    `select s.id, s.technician_id, p.name as person, site.name as site_name, s.leave_min, s.arrive_min, s.work_min, s.travel_min, s.home_min, s.order_no, s.promise_from,
       s.promise_to, case when v.visit_id is null then 'planned' when exists (select 1 from fact_visit_finished d where d.firm_id = s.firm_id
         and d.visit_id = v.visit_id and not d.voided) then 'done' else 'begun' end as state,
       (select max(r.arrived_at) from fact_receipt r where r.firm_id = s.firm_id and r.person_id = p.id) as heard_at
     from stop s join person p on p.firm_id = s.firm_id and p.id = s.technician_id join site on site.firm_id = s.firm_id and site.id = s.site_id
     left join lateral (select b.visit_id from fact_visit_begun b where b.firm_id = s.firm_id and b.stop_id = s.id and not b.voided
       order by b.at desc limit 1) v on true
     where s.firm_id = $1 and s.day = $2 order by p.name, s.technician_id, s.order_no`,
    [day],
  )
  const times = new Map((await scope.find(WorkTimeRow)).map((row) => [row.id, row]))
  const people = [...new Set(rows.map(({ technician_id }) => technician_id))]
  return people.map((personId) => {
    const own = rows.filter(({ technician_id }) => technician_id === personId)
    const { fromMin, toMin } = times.get(personId) ?? USUAL_TIMES
    return {
      personId,
      name: own[0]?.person ?? '',
      fromMin,
      toMin,
      homeMin: homeMin(
        own.map((row) => ({
          arriveMin: row.arrive_min,
          workMin: row.work_min,
          travelMin: row.travel_min,
          orderNo: row.order_no,
          homeMin: row.home_min,
        })),
      ),
      heardAt: own[0]?.heard_at?.toISOString() ?? null,
      stops: own.map((row) => ({
        id: row.id,
        siteName: row.site_name,
        leaveMin: row.leave_min,
        arriveMin: row.arrive_min,
        workMin: row.work_min,
        travelMin: row.travel_min,
        promise: row.promise_from === null || row.promise_to === null ? null : [row.promise_from, row.promise_to],
        state: row.state,
      })),
    }
  })
}

/** What wants somebody in the office today, and who is where. */
export async function officePage(scope: FirmScope, now: Date): Promise<OfficeDto> {
  const { timeZone } = await loadFirm(scope)
  const day = dayIn(timeZone, now)
  return {
    day,
    alarms: await alarms(scope, now),
    road: await road(scope, day),
    late: { ...(await lateCounts(scope, day)), ...(await lateParts(scope, day)) },
    offers: await openFaults(scope),
    silent: await silentDevices(scope, now),
    contracts: await adviceCounts(scope),
    score: await scoreOf(scope, day, now),
  }
}
