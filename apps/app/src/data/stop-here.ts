import type { SitePageDto, StopDto, StopPageDto, SystemDto, TodayDto } from '@evenround/contract/site'
import type { Task } from '@evenround/core/train'
import { visitMinutes } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { v7 as uuidv7 } from 'uuid'
import { amend } from './answers'
import { ApiProblem, api, ask } from './api'
import { editsWait, keepEdit } from './kept-edits'
import { NO_HISTORY } from './new-stage'
import { KEY, queryClient } from './queries'

const MINUTES_A_DAY = 24 * 60
const minuteNow = (timeZone: string): number => {
  const [hours = 0, minutes = 0] = new Intl.DateTimeFormat('en-GB', { timeZone, hour: '2-digit', minute: '2-digit' })
    .format(new Date())
    .split(':')
    .map(Number)
  return hours * 60 + minutes
}

interface Here {
  site: SitePageDto
  system: SystemDto
  tasks: readonly Task[]
  personId: string
  day: string
  timeZone: string
  schools: Parameters<typeof visitMinutes>[2]
}

/** The stop as this device shows it until the server says it: at this minute, after whatever stands on today. */
function stopOf(id: string, { site, system, tasks, personId, day, timeZone, schools }: Here, order: number): StopDto {
  const time = visitMinutes(system.train, [...tasks], schools)
  const arriveMin = Math.min(MINUTES_A_DAY - 60, minuteNow(timeZone))
  return {
    id,
    day,
    order,
    technicianId: personId,
    leaveMin: arriveMin,
    arriveMin,
    workMin: Math.round((time?.handsOnMin ?? 0) + (time?.waitingMin ?? 0)),
    travelMin: 0,
    ferryAt: null,
    promised: false,
    promise: null,
    site: site.site,
    system,
    tasks: tasks.map(({ stage, action }) => ({ stageId: stage, action })),
    time: null,
    holds: site.holds,
    visit: null,
    follows: null,
    job: null,
  }
}

/**
 * A stop nobody planned, put on today. Without a connection, or while what it is about has not been sent, it is kept on this device and
 * sent later. Resolves with its id.
 */
export async function putOnToday(here: Here): Promise<string> {
  const id = uuidv7()
  const json = { id, systemId: here.system.id, tasks: here.tasks.map(({ stage, action }) => ({ stageId: stage, action })) }
  if (!editsWait()) {
    try {
      await ask(api.stops.$post({ json }))
      await queryClient.invalidateQueries({ queryKey: KEY.today })
      return id
    } catch (error) {
      if (!(error instanceof ApiProblem && error.code === 'OFFLINE')) throw error
    }
  }
  const today = queryClient.getQueryData<TodayDto>(KEY.today)
  const stop = stopOf(id, here, (today?.stops.length ?? 0) + 1)
  const history = here.site.histories.find(({ systemId }) => systemId === here.system.id)?.history
  queryClient.setQueryData<StopPageDto>(KEY.stop(id), {
    stop,
    history: history ?? NO_HISTORY,
    wear: [],
    counter: null,
  })
  amend<TodayDto>(queryClient, KEY.today, (before) => ({ ...before, stops: [...before.stops, stop] }))
  await keepEdit({ path: '/api/stops', body: { ...json, at: new Date().toISOString() }, what: say`Stop at ${here.site.site.name}` })
  return id
}
