import type { WeekDto } from '@evenround/contract/site'
import { isoWeekday } from '@evenround/core/units'
import { Link } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { useWeek } from '../../data/queries'
import { DayLine } from '../../ui/day-line'
import { clockOf, longDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

/** The coming seven days as day lines under one another. */
export function Round() {
  const week = useWeek()
  return (
    <Screen
      title="Round"
      over="Your next seven days"
      wide
      aside={
        <Link href="/due" asChild>
          <Pressable className="min-h-[48px] justify-center rounded-card border-2 border-line bg-sheet px-4">
            <T kind="label">All that is due</T>
          </Pressable>
        </Link>
      }
    >
      {week.data ? (
        <Week week={week.data} />
      ) : week.error ? (
        <Failed what="The round cannot be shown" error={week.error} onRetry={() => void week.refetch()} />
      ) : (
        <Waiting rows={5} what="Loading the round" />
      )}
    </Screen>
  )
}

function Week({ week }: { week: WeekDto }) {
  const [width, setWidth] = useState(0)
  const days = week.days.filter(({ day, stops }) => stops.length > 0 || isoWeekday(day) < 6)
  return (
    <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)} className="gap-1">
      {days.map(({ day, stops, homeMin }, index) => (
        <View key={day} className="border-t-2 border-line py-3">
          <View className="flex-row items-baseline gap-3">
            <T kind="strong">{index === 0 && day === week.from ? `Today, ${longDay(day)}` : longDay(day)}</T>
            <T kind="quiet">
              {stops.length === 0
                ? 'nothing planned'
                : `${stops.length} ${stops.length === 1 ? 'stop' : 'stops'}${homeMin === null ? '' : `, home ${clockOf(homeMin)}`}`}
            </T>
          </View>
          {stops.length > 0 && width > 0 ? (
            <DayLine
              fromMin={week.fromMin}
              toMin={week.toMin}
              homeMin={homeMin}
              width={width}
              stops={stops.map((stop) => ({ ...stop, state: 'next' as const }))}
              label={`${longDay(day)}: ${stops.map(({ siteName, arriveMin }) => `${clockOf(arriveMin)} ${siteName}`).join(', ')}`}
            />
          ) : null}
          <View className="flex-row flex-wrap gap-x-4">
            {stops.map(({ id, siteName, arriveMin }) => (
              <Link key={id} href={`/stop/${id}`} asChild>
                <Pressable className="min-h-[48px] justify-center">
                  <T kind="quiet" className="text-ink underline">{`${clockOf(arriveMin)} ${siteName}`}</T>
                </Pressable>
              </Link>
            ))}
          </View>
        </View>
      ))}
      <T kind="small" className="pt-2">
        The ring of the year, planning and publishing come with the round itself; these days are as they were planned.
      </T>
    </View>
  )
}
