import type { TodayDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { useNow } from '../../data/now'
import { refreshDays } from '../../data/queries'
import { Button } from '../../ui/button'
import { duration, longDay, minuteOfInstant, plainDay, timeOfDay } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { lateness } from './late'

const MINUTE_MS = 60_000

/** Running late: what that does to the rest of the day, and the one stop that can wait best. */
export function Late({ today }: { today: TodayDto }) {
  const now = useNow(MINUTE_MS)
  const [put, setPut] = useState<{ id: string; name: string; day: string } | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  const late = lateness(today, minuteOfInstant(now, today.timeZone))
  const move = async (id: string, name: string, day: string | null): Promise<void> => {
    setTrouble(null)
    try {
      const answer = await ask(api.stops[':id']['put-off'].$post({ param: { id }, json: { day } }))
      setPut(day === null ? { id, name, day: answer.day } : null)
      refreshDays()
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : say`It could not be put off.`)
    }
  }
  return (
    <>
      {put ? (
        <Notice tone="good" title={say`${put.name} is put off to ${longDay(put.day)}`} live>
          <View className="self-start">
            <Button label={say`Undo`} onPress={() => void move(put.id, put.name, today.day)} />
          </View>
        </Notice>
      ) : null}
      {late ? (
        <Notice tone="look" title={say`${duration(late.behindMin)} behind: home about ${timeOfDay(late.homeMin)}`} live>
          {late.overMin > 0 ? <T>{say`${duration(late.overMin)} over the day.`}</T> : null}
          {late.broken.length > 0 ? (
            <T kind="strong">{say`Promised times would be missed at ${late.broken.join(', ')}: call ahead.`}</T>
          ) : null}
          {late.canWait ? (
            <>
              <T>
                {say`${late.canWait.siteName} can wait best${late.canWait.until ? say`, until ${plainDay(late.canWait.until)}` : say`, although its parts are due by now`}; leaving it out saves about ${duration(late.canWait.savesMin)}.`}
              </T>
              <View className="self-start">
                <Button label={say`Put it off`} onPress={() => late.canWait && void move(late.canWait.id, late.canWait.siteName, null)} />
              </View>
            </>
          ) : (
            <T>{say`Nothing that is left may be put off without the planner.`}</T>
          )}
          {trouble ? (
            <T role="alert" className="text-oxblood">
              {trouble}
            </T>
          ) : null}
        </Notice>
      ) : null}
    </>
  )
}
