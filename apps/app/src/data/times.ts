import type { DayOff, PlaceDto, RoundTerms, SiteHours, VanList, WorkTime } from '@evenround/contract/rounds'
import { useQuery } from '@tanstack/react-query'
import { v7 as uuidv7 } from 'uuid'
import { api, ask } from './api'
import { queryClient } from './queries'

export interface Times {
  people: WorkTime[]
  daysOff: DayOff[]
  places: PlaceDto[]
  terms: RoundTerms
}

const TIMES = ['times'] as const
export const useTimes = () => useQuery({ queryKey: TIMES, queryFn: () => ask(api.times.$get()) as Promise<Times> })

/** The round is planned by these: it is looked at anew when one of them changed. */
const changed = async (): Promise<void> => {
  for (const root of ['times', 'round', 'site-hours']) await queryClient.invalidateQueries({ queryKey: [root] })
}

export async function saveWorkTime({ personId, name: _, van: __, skills: ___, ...times }: WorkTime): Promise<void> {
  await ask(api.times.people[':id'].$put({ param: { id: personId }, json: times }))
  await changed()
}
/** A base by its coordinates; the same id again moves it. */
export async function saveBase(id: string, base: { name: string; lat: number; lon: number }): Promise<void> {
  await ask(api.times.places[':id'].$put({ param: { id }, json: base }))
  await changed()
}
export async function addDayOff(off: Omit<DayOff, 'id'>): Promise<void> {
  await ask(api.times['days-off'].$post({ json: { ...off, id: uuidv7() } }))
  await changed()
}
export async function removeDayOff(id: string): Promise<void> {
  await ask(api.times['days-off'][':id'].$delete({ param: { id } }))
  await changed()
}
export async function bringHolidays(text: string): Promise<{ added: number; known: number }> {
  const done = await ask(api.times.holidays.$post({ json: { text, personId: null } }))
  await changed()
  return done
}
export async function saveTerms(terms: RoundTerms): Promise<void> {
  await ask(api.round.terms.$put({ json: terms }))
  await changed()
}

export const useSiteHours = (siteId: string) =>
  useQuery({
    queryKey: ['site-hours', siteId],
    queryFn: () => ask(api.sites[':id'].hours.$get({ param: { id: siteId } })) as Promise<SiteHours>,
  })
export async function saveSiteHours({ siteId, ...hours }: SiteHours): Promise<void> {
  await ask(api.sites[':id'].hours.$put({ param: { id: siteId }, json: hours }))
  await changed()
}

export const useVan = (from: string | null, days: number) =>
  useQuery({
    queryKey: ['van', from, days],
    queryFn: () => ask(api.van.$get({ query: { ...(from ? { from } : {}), days: String(days) } })) as Promise<VanList>,
  })
export async function tickVan(day: string, key: string, state: 'loaded' | 'short' | null): Promise<void> {
  await ask(api.van.ticks.$put({ json: { day, key, state } }))
  await queryClient.invalidateQueries({ queryKey: ['van'] })
}
