import type { StopPageDto, TodayDto, WeekDto } from '@evenround/contract/site'
import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { ApiProblem } from './api'
import { useNow } from './now'
import { KEY, offlineQuery, queryClient, useToday, useWeek } from './queries'

const MINUTE_MS = 60_000

/** The calendar day of an instant in a zone, ISO. */
const dayAt = (instant: string, timeZone: string): string => new Intl.DateTimeFormat('sv-SE', { timeZone }).format(new Date(instant))

/** Another day than the one last asked for, put together from the week that is on the device; null where it is not in it. */
export function dayFromWeek(day: string, today: TodayDto, week: WeekDto, stopOf: (id: string) => StopPageDto | undefined): TodayDto | null {
  const found = week.days.find((one) => one.day === day)
  if (!found) return null
  const stops = found.stops.flatMap(({ id }) => stopOf(id)?.stop ?? [])
  return { ...today, day, fromMin: week.fromMin, toMin: week.toMin, homeMin: found.homeMin, stops }
}

const cachedStop = (id: string): StopPageDto | undefined => queryClient.getQueryData<StopPageDto>(KEY.stop(id))

/** Today's stops; after midnight without a network those of the new day, from what was brought onto the device. */
export function useDay() {
  const today = useToday()
  // The week comes with the coming days; where those cannot be had it is asked for by itself.
  const brought = useQuery({ ...offlineQuery, enabled: false }).isFetched
  const week = useWeek(today.data !== undefined && brought)
  const now = useNow(MINUTE_MS)
  const data = today.data
  const day = data ? dayAt(now, data.timeZone) : null
  const later = data && week.data && day !== null && day !== data.day && today.error ? dayFromWeek(day, data, week.data, cachedStop) : null
  return { data: later ?? data, error: today.error, refetch: today.refetch, missing: missingStops(week.data) }
}

/** Stops of the next seven days that are not on this device yet, by name. */
function missingStops(week: WeekDto | undefined): string[] {
  return (week?.days ?? []).flatMap(({ stops }) => stops.flatMap(({ id, siteName }) => (cachedStop(id) ? [] : [siteName])))
}

export const isOffline = (error: unknown): boolean => error instanceof ApiProblem && error.code === 'OFFLINE'

/** Keeps today and the next seven days on the device while somebody is signed in. */
export function useWeekOnDevice(wanted: boolean): void {
  const [idle, setIdle] = useState(false)
  useEffect(() => {
    // The screen that stands comes first.
    const waiting = requestIdleCallback(() => setIdle(true), { timeout: 5000 })
    return () => cancelIdleCallback(waiting)
  }, [])
  useQuery({ ...offlineQuery, enabled: wanted && idle })
}
