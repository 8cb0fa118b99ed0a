import type { SitePageDto, StopDto, StopPageDto, SystemDto, TodayDto } from '@evenround/contract/site'
import type { TrainPageDto } from '@evenround/contract/train-edit'
import { stagesInFlow, type Train } from '@evenround/core/train'
import type { WearSchool } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { amend } from './answers'
import { ApiProblem, api, ask } from './api'
import { editsWait, keepEdit } from './kept-edits'
import { NO_HISTORY, newStage } from './new-stage'
import { KEY, queryClient } from './queries'

/** What is typed and drawn of a system. */
export interface SystemEdit {
  name: string
  serialNo: string
  train: Train
}

/** A system with its plumbing as this device knows it; null where it does not. */
export function systemOnDevice(id: string): TrainPageDto | null {
  const pages = queryClient.getQueriesData<SitePageDto>({ queryKey: ['site'] }).flatMap(([, page]) => (page ? [page] : []))
  const stops = queryClient.getQueriesData<StopPageDto>({ queryKey: ['stop'] }).flatMap(([, page]) => (page ? [page.stop] : []))
  const found = [
    ...pages.flatMap(({ site, systems }) => systems.map((system) => ({ site, system }))),
    ...stops.map(({ site, system }) => ({ site, system })),
  ].find(({ system }) => system.id === id)
  if (!found) return null
  const { site, system } = found
  const { name, serialNo = '', train, trainVersion: version } = system
  return { systemId: id, siteId: site.id, siteName: site.name, name, serialNo, version, train }
}

const systemWith = (system: SystemDto, { name, serialNo, train }: SystemEdit, school: WearSchool): SystemDto => ({
  ...system,
  name,
  serialNo,
  train,
  stages: stagesInFlow(train).map((node) => {
    const known = system.stages.find(({ id }) => id === node.id)
    return known ? { ...known, position: node.position, media: node.media, housing: node.housing } : newStage(node, school)
  }),
})

/** Puts a system as it is now where this device shows it. */
function show(page: TrainPageDto, edit: SystemEdit, school: WearSchool): void {
  const { systemId, siteId } = page
  const changed = (system: SystemDto): SystemDto => (system.id === systemId ? systemWith(system, edit, school) : system)
  const stopWith = (stop: StopDto): StopDto => (stop.system.id === systemId ? { ...stop, system: changed(stop.system) } : stop)
  amend<SitePageDto>(queryClient, KEY.site(siteId), (site) =>
    site.systems.some(({ id }) => id === systemId)
      ? { ...site, systems: site.systems.map(changed) }
      : {
          ...site,
          systems: [
            ...site.systems,
            systemWith({ id: systemId, siteId, name: '', trainVersion: 1, train: edit.train, stages: [] }, edit, school),
          ],
          histories: [...site.histories, { systemId, history: NO_HISTORY }],
        },
  )
  amend<StopPageDto>(queryClient, ['stop'], (one) => (one.stop.system.id === systemId ? { ...one, stop: stopWith(one.stop) } : one))
  amend<TodayDto>(queryClient, KEY.today, (today) =>
    today.stops.some(({ system }) => system.id === systemId) ? { ...today, stops: today.stops.map(stopWith) } : today,
  )
  queryClient.setQueryData<TrainPageDto>(KEY.train(systemId), { ...page, ...edit })
}

/**
 * Saves a system as it is drawn, a new one at version 0. Where there is no network, or what it hangs on waits itself, it stands on this device at
 * once and the server merges it in when there is one.
 */
export async function saveSystem(page: TrainPageDto, edit: SystemEdit, school: WearSchool): Promise<void> {
  const { systemId: id, siteId, version } = page
  const fresh = version === 0
  if (!editsWait()) {
    try {
      if (fresh) await ask(api.systems.$post({ json: { id, siteId, ...edit } }))
      else await ask(api.systems[':id'].train.$put({ param: { id }, json: { version, ...edit } }))
      await queryClient.invalidateQueries()
      return
    } catch (error) {
      if (!(error instanceof ApiProblem && error.code === 'OFFLINE')) throw error
    }
  }
  const { name, serialNo, train } = page
  await keepEdit(
    fresh
      ? { path: '/api/systems', body: { id, siteId, ...edit }, what: say`New system: ${edit.name}, ${page.siteName}` }
      : {
          path: `/api/systems/${id}/changes`,
          body: { before: { name, serialNo, train }, after: edit },
          what: say`Plumbing: ${edit.name}, ${page.siteName}`,
        },
  )
  show(page, edit, school)
}
