import type { ShelfDto } from '@evenround/contract/shelf'
import { addDays } from '@evenround/core/units'
import { Between, In } from 'typeorm'
import { Part, Site, Stage, Stop, StopTask } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { mediaPage } from '../features/catalogue/media'
import { equivalentsOf, partDto } from '../features/catalogue/store'
import { loadFirm } from '../features/firm/store'
import { kindsOf } from '../features/wear/kinds'
import type { Who } from '../http/env'
import { dayIn } from '../time/zone'

const DAYS_AHEAD = 6

async function needsOf(scope: FirmScope, who: Who, today: string, parts: readonly Part[]): Promise<ShelfDto['needs']> {
  const stops = await scope.find(
    Stop,
    { technicianId: who.personId, day: Between(today, addDays(today, DAYS_AHEAD)) },
    { day: 'ASC', orderNo: 'ASC' },
  )
  const tasks = await scope.find(StopTask, { stopId: In(stops.map(({ id }) => id)), action: 'change' })
  const stages = new Map((await scope.find(Stage, { id: In(tasks.map(({ stageId }) => stageId)) })).map((stage) => [stage.id, stage]))
  const names = new Map((await scope.find(Site)).map(({ id, name }) => [id, name]))
  const needs = new Map<string, ShelfDto['needs'][number]>()
  for (const stop of stops) {
    for (const { stageId } of tasks.filter(({ stopId }) => stopId === stop.id)) {
      const part = parts.find(({ id }) => id === stages.get(stageId)?.nextPartId)
      if (!part) continue
      const need = needs.get(part.partNumber) ?? { partNumber: part.partNumber, count: 0, firstDay: stop.day, forSites: [] }
      need.count += 1
      const site = names.get(stop.siteId) ?? ''
      if (!need.forSites.includes(site)) need.forSites.push(site)
      needs.set(part.partNumber, need)
    }
  }
  return [...needs.values()]
}

/** The catalogue, and what the coming week's stops want from the van. */
export async function shelfPage(scope: FirmScope, who: Who, now: Date): Promise<ShelfDto> {
  const firm = await loadFirm(scope)
  const parts = await scope.find(Part, {}, { partNumber: 'ASC' })
  const needs = await needsOf(scope, who, dayIn(firm.timeZone, now), parts)
  const equivalents = await equivalentsOf(scope)
  return {
    parts: parts.map((part) => partDto(part, equivalents.get(part.id))),
    media: await mediaPage(scope),
    kinds: await kindsOf(scope),
    needs,
  }
}
