import type { Effects } from '@evenround/contract/effects'
import type { News } from '@evenround/contract/live'
import type { Fact, FactKind } from '@evenround/core/visit'
import { In } from 'typeorm'
import { Site, Stage } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { holdsOn } from '../features/facts/read'
import { loadFirm } from '../features/firm/store'
import type { Deps } from '../http/env'
import { dayIn } from '../time/zone'
import { followUpOf } from './book'
import { systemsOf } from './systems'

const unique = (ids: readonly string[]): string[] => [...new Set(ids)]

/** What the firm's other devices are told of these facts. */
export const newsOfFacts = (deviceId: string, facts: readonly Fact[]): News => ({
  what: 'facts',
  deviceId,
  kinds: unique(facts.map(({ kind }) => kind)),
  visitIds: unique(facts.map(({ visitId }) => visitId)),
  siteIds: unique(facts.map(({ siteId }) => siteId)),
})

const NONE: Effects = { visits: [], followUps: [], holds: [], systems: [] }
/** Kinds whose effects are read from the tables; the others change nothing but their visit, which the device has. */
const FORECAST_KINDS: readonly FactKind[] = ['tds-reading', 'stage-reading', 'part-removed', 'part-fitted']
const HOLD_KINDS: readonly FactKind[] = ['hold-begun', 'hold-lifted']

const visitsOf = (facts: readonly Fact[]): Effects['visits'] =>
  facts.flatMap((fact): Effects['visits'] => {
    if (fact.voided) return []
    if (fact.kind === 'visit-begun') return [{ visitId: fact.visitId, stopId: fact.stopId, finished: false }]
    return fact.kind === 'visit-finished' ? [{ visitId: fact.visitId, stopId: null, finished: true }] : []
  })

/** The systems these facts say something of, as they are known now. */
async function systemsAfter(scope: FirmScope, facts: readonly Fact[], now: Date): Promise<Effects['systems']> {
  const touched = facts.filter(({ kind }) => FORECAST_KINDS.includes(kind))
  if (touched.length === 0) return []
  const named = touched.flatMap((fact) => (fact.kind === 'tds-reading' || fact.kind === 'stage-reading' ? [fact.systemId] : []))
  const stageIds = touched.flatMap((fact) => (fact.kind === 'part-removed' || fact.kind === 'part-fitted' ? [fact.stageId] : []))
  const stages = stageIds.length === 0 ? [] : await scope.find(Stage, { id: In(unique(stageIds)) })
  const wanted = new Set([...named, ...stages.map(({ systemId }) => systemId)])
  const firm = await loadFirm(scope)
  const sites = await scope.find(Site, { id: In(unique(touched.map(({ siteId }) => siteId))) })
  const systems = await systemsOf(scope, sites, dayIn(firm.timeZone, now))
  return systems.filter(({ id }) => wanted.has(id))
}

/** What these facts changed, with its new values; nothing is read for a plain tick. */
export async function effectsOf(deps: Deps, firmId: string, facts: readonly Fact[]): Promise<Effects> {
  const visits = visitsOf(facts)
  const ended = visits.filter(({ finished }) => finished)
  const held = unique(facts.filter(({ kind }) => HOLD_KINDS.includes(kind)).map(({ siteId }) => siteId))
  const plain = ended.length === 0 && held.length === 0 && !facts.some(({ kind }) => FORECAST_KINDS.includes(kind))
  if (plain) return { ...NONE, visits }
  return deps.inFirm(firmId, async (scope) => {
    const holds = await holdsOn(scope, held, deps.now())
    const followUps: Effects['followUps'] = []
    for (const { visitId } of ended) followUps.push({ visitId, followUp: await followUpOf(scope, visitId) })
    return {
      visits,
      followUps,
      holds: held.map((siteId) => ({ siteId, holds: holds.get(siteId) ?? [] })),
      systems: await systemsAfter(scope, facts, deps.now()),
    }
  })
}
