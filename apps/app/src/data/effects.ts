import type { VisitPageDto } from '@evenround/contract/book'
import type { DisinfectionPage } from '@evenround/contract/disinfections'
import type { Effects } from '@evenround/contract/effects'
import type { HoldDto, SitePageDto, StopDto, StopPageDto, SystemDto, TodayDto } from '@evenround/contract/site'
import { STALE_BY_FACT } from '@evenround/contract/stale'
import type { Fact, FactKind } from '@evenround/core/visit'
import type { QueryClient } from '@tanstack/react-query'
import { amend, newsCame } from './answers'

/** A stop with what these facts changed of it; the same object where they changed nothing. */
function stopAfter(stop: StopDto, { visits, holds, systems }: Effects): StopDto {
  const visit = visits.reduce<StopDto['visit']>((now, { visitId, stopId, finished }) => {
    if (stopId === stop.id) return { id: visitId, finished: finished || (now?.id === visitId && now.finished) }
    return now?.id === visitId && finished ? { id: visitId, finished } : now
  }, stop.visit)
  const held = holds.find(({ siteId }) => siteId === stop.site.id)?.holds
  const system = systems.find(({ id }) => id === stop.system.id)
  if (visit === stop.visit && !held && !system) return stop
  return { ...stop, visit, holds: held ?? stop.holds, system: system ?? stop.system }
}

const withSystems = (before: readonly SystemDto[], after: readonly SystemDto[]): SystemDto[] =>
  before.map((system) => after.find(({ id }) => id === system.id) ?? system)
const holdsAt = (siteId: string, { holds }: Effects): HoldDto[] | undefined => holds.find((one) => one.siteId === siteId)?.holds

/** Facts of a visit that the server has now, put to those it had. */
function withFacts<P extends { facts: VisitPageDto['facts'] }>(page: P, accepted: readonly Fact[], personId: string, now: string): P {
  const known = new Set(page.facts.map(({ fact }) => fact.id))
  const fresh = accepted.filter(({ id }) => !known.has(id))
  return fresh.length === 0
    ? page
    : { ...page, facts: [...page.facts, ...fresh.map((fact) => ({ fact, arrivedAt: now, personId, flags: [] }))] }
}

export interface Answered {
  effects: Effects
  accepted: readonly Fact[]
  personId: string
  /** Instant, ISO. */
  now: string
}

/**
 * Puts what a batch of facts changed into what the device shows and keeps, instead of asking for it again. What the effects do not say
 * is asked for where it is on a screen: `STALE_BY_FACT`.
 */
export function applyEffects(client: QueryClient, { effects, accepted, personId, now }: Answered): void {
  for (const visitId of new Set(accepted.map((fact) => fact.visitId))) {
    const own = accepted.filter((fact) => fact.visitId === visitId)
    const followUp = effects.followUps.find((one) => one.visitId === visitId)
    amend<VisitPageDto>(client, ['visit', visitId], (page) => {
      const after = withFacts(page, own, personId, now)
      return followUp ? { ...after, followUp: followUp.followUp } : after
    })
    amend<DisinfectionPage>(client, ['disinfection', visitId], (page) => withFacts(page, own, personId, now))
  }
  showChanged(client, effects)
  askAgain(
    client,
    accepted.map(({ kind }) => kind),
  )
}

/** Systems as this device knows them to be now, wherever they are shown; what the server says of them comes over it. */
export const showSystems = (client: QueryClient, systems: SystemDto[]): void =>
  showChanged(client, { visits: [], holds: [], systems, followUps: [] })

/** What changed of stops, today and sites. */
function showChanged(client: QueryClient, effects: Effects): void {
  amend<StopPageDto>(client, ['stop'], (page) => {
    const stop = stopAfter(page.stop, effects)
    return stop === page.stop ? page : { ...page, stop }
  })
  amend<TodayDto>(client, ['today'], (page) => {
    const stops = page.stops.map((stop) => stopAfter(stop, effects))
    return stops.some((stop, index) => stop !== page.stops[index]) ? { ...page, stops } : page
  })
  amend<SitePageDto>(client, ['site'], (page) => {
    const holds = holdsAt(page.site.id, effects)
    return holds || effects.systems.some(({ siteId }) => siteId === page.site.id)
      ? { ...page, holds: holds ?? page.holds, systems: withSystems(page.systems, effects.systems) }
      : page
  })
}

/** What these kinds of facts made stale beside their own visits: asked for now where it is shown, later where it is not. */
export function askAgain(client: QueryClient, kinds: readonly FactKind[]): void {
  newsCame()
  for (const root of new Set(kinds.flatMap((kind) => STALE_BY_FACT[kind]))) void client.invalidateQueries({ queryKey: [root] })
}
