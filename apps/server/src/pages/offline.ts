import type { OfflineDto } from '@evenround/contract/offline'
import { addDays } from '@evenround/core/units'
import { Between } from 'typeorm'
import { Stop } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import type { Who } from '../http/env'
import { visitPage } from './book'
import { disinfectionPage } from './disinfection'
import { homeMin } from './stops'
import { dayHead, stopPages, weekPage } from './today'

/** The signed-in person's coming days with everything their stops need at the door, in one answer. */
export async function offlinePage(scope: FirmScope, who: Who, now: Date, days: number): Promise<OfflineDto> {
  const head = await dayHead(scope, who, now)
  const week = await weekPage(scope, who, now)
  const last = addDays(head.day, days - 1)
  const rows = await scope.find(Stop, { technicianId: who.personId, day: Between(head.day, last) }, { day: 'ASC', orderNo: 'ASC' })
  const stops = await stopPages(scope, rows, now)
  const own = stops.flatMap(({ stop }) => (stop.day === head.day ? [stop] : []))
  const today = { ...head, homeMin: homeMin(rows.filter(({ day }) => day === head.day)), stops: own }
  const begun = stops.flatMap(({ stop: { job, visit } }) => (job === null && visit !== null ? [visit.id] : []))
  const visits: OfflineDto['visits'] = []
  for (const id of begun) visits.push({ id, page: await visitPage(scope, id, now) })
  const disinfections: OfflineDto['disinfections'] = []
  for (const id of new Set(stops.flatMap(({ stop: { job } }) => job?.id ?? []))) disinfections.push(await disinfectionPage(scope, id, now))
  return { today, week, stops, visits, disinfections }
}
