import type { SiteDto, SiteNew, SitePageDto, SiteRowDto, SystemDto } from '@evenround/contract/site'
import { stagesInFlow, type Train } from '@evenround/core/train'
import type { WearSchool } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { v7 as uuidv7 } from 'uuid'
import { amend } from './answers'
import { keepEdit } from './kept-edits'
import { factsOfKnown, type Said } from './known-parts'
import { type KnownPart, NO_HISTORY, newStage } from './new-stage'
import { record } from './outbox'
import { KEY, queryClient } from './queries'

interface NewSite {
  site: Omit<SiteDto, 'id' | 'version'>
  system: { name: string; serialNo: string; train: Train } | null
  parts: readonly KnownPart[]
}
interface Maker extends Said {
  school: WearSchool
}

/**
 * A new site with what hangs there: on this device at once, to the server when there is one. Resolves with its id.
 * The site goes first, then the parts that are known to be in it, as facts.
 */
export async function makeSite({ site, system, parts }: NewSite, maker: Maker): Promise<{ siteId: string; systemId: string | null }> {
  const siteId = uuidv7()
  const systemId = uuidv7()
  const systems = system ? [{ id: systemId, ...system }] : []
  const body = { ...site, id: siteId, systems } satisfies SiteNew
  const page: SitePageDto = {
    site: { ...site, id: siteId, version: 1 },
    systems: systems.map(
      ({ id, name, serialNo, train }): SystemDto => ({
        id,
        siteId,
        name,
        serialNo,
        trainVersion: 1,
        train,
        stages: stagesInFlow(train).map((node) =>
          newStage(
            node,
            maker.school,
            parts.find(({ stageId }) => stageId === node.id),
            maker.today,
          ),
        ),
      }),
    ),
    holds: [],
    visits: [],
    histories: systems.map(({ id }) => ({ systemId: id, history: NO_HISTORY })),
  }
  queryClient.setQueryData<SitePageDto>(KEY.site(siteId), page)
  const { name, village, island, lat, lon } = site
  const row: SiteRowDto = {
    id: siteId,
    name,
    village,
    island,
    lat,
    lon,
    systems: systems.length,
    nextDue: null,
    spent: 0,
    overdue: 0,
    hold: null,
  }
  amend<{ sites: SiteRowDto[] }>(queryClient, KEY.sites, (before) => ({
    ...before,
    sites: [...before.sites, row].sort((a, b) => a.name.localeCompare(b.name)),
  }))
  await keepEdit({ path: '/api/sites', body, what: say`New site: ${site.name}` })
  const positions = new Map(page.systems.flatMap(({ stages }) => stages.map(({ id, position }) => [id, position] as const)))
  const facts = factsOfKnown(siteId, positions, parts, maker)
  if (facts.length > 0) await record(...facts)
  return { siteId, systemId: system ? systemId : null }
}
