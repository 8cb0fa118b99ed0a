import type { RoundPage, SetPlan } from '@evenround/contract/rounds'
import { retell, say } from '@evenround/core/words'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { Button } from '../../ui/button'
import { daySpan } from '../../ui/format'
import { T } from '../../ui/text'
import { whyNoDay } from './why-no-day'

const SHOWN = 6

/** What is on no day, with its window and the reason; and what cannot be planned at all. */
export function Unplanned({ page: { set }, plan, onChoose }: { page: RoundPage; plan: SetPlan; onChoose: (visitId: string) => void }) {
  const [all, setAll] = useState(false)
  const rows = plan.unplanned.flatMap(({ visit: id, reason, why }) => {
    const visit = set.visits.find((one) => one.id === id)
    return visit ? [{ visit, why: whyNoDay(reason, why, visit.skills) }] : []
  })
  if (rows.length === 0 && set.leftOut.length === 0) return null
  const last = set.days.length - 1
  const day = (index: number): string => set.days[Math.max(0, Math.min(last, index))] ?? set.today
  return (
    <View className="gap-1">
      {rows.length > 0 ? <T kind="heading" level={2}>{say`Unscheduled: ${rows.length}`}</T> : null}
      {rows
        .sort((a, b) => a.visit.windowDays[1] - b.visit.windowDays[1])
        .slice(0, all ? rows.length : SHOWN)
        .map(({ visit, why }) => (
          <Pressable
            key={visit.id}
            role="button"
            onPress={() => onChoose(visit.id)}
            className="min-h-[48px] justify-center border-b-2 border-line py-2"
          >
            <T kind="strong">{visit.siteName}</T>
            <T kind="small">{say`${daySpan(day(visit.windowDays[0]), day(visit.windowDays[1]), set.today)} · ${Math.round(visit.serviceMin)} min · ${visit.village}`}</T>
            {why === null ? null : (
              <T kind="quiet" className="text-ink">
                {why}
              </T>
            )}
          </Pressable>
        ))}
      {set.leftOut.slice(0, all ? set.leftOut.length : SHOWN).map(({ siteId, siteName, why }) => (
        <T key={siteId} kind="quiet">{say`${siteName} is not planned: ${retell(why)}`}</T>
      ))}
      {(rows.length > SHOWN || set.leftOut.length > SHOWN) && !all ? (
        <Button label={rows.length > SHOWN ? say`All ${rows.length}` : say`All ${set.leftOut.length}`} onPress={() => setAll(true)} />
      ) : null}
    </View>
  )
}
