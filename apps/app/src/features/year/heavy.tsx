import type { YearHeavy, YearHelpDto } from '@evenround/contract/year-page'
import { mediumName } from '@evenround/core/catalogue'
import { many, say } from '@evenround/core/words'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { duration, plainDay } from '../../ui/format'
import { T } from '../../ui/text'
import { type Worth, worthOf } from './compare'

interface HeavyProps {
  heavy: readonly YearHeavy[]
  worth: Worth
  /** Null for whoever does not plan. */
  onTry: ((week: string, help: YearHelpDto) => void) | null
}

const whenText = (byWeeks: number): string => {
  const weeks = many(Math.abs(byWeeks), 'week', 'weeks')
  return byWeeks < 0 ? say`${weeks} sooner` : say`${weeks} later`
}

/** What a move costs or saves, in words; nothing where it comes to less than a tenth of an hour's worth. */
function priceText({ lifeMin, riskMin, travelMin }: YearHelpDto, worth: Worth): string {
  const parts = [
    lifeMin >= 1
      ? say`${worthOf(lifeMin, worth)} of part life`
      : lifeMin <= -1
        ? say`${worthOf(-lifeMin, worth)} of part life saved`
        : null,
    riskMin >= 1 ? say`${worthOf(riskMin, worth)} of risk` : riskMin <= -1 ? say`${worthOf(-riskMin, worth)} of risk saved` : null,
    travelMin >= 1 ? say`${duration(travelMin)} more driving` : travelMin <= -1 ? say`${duration(-travelMin)} less driving` : null,
  ].filter((part) => part !== null)
  return parts.length === 0 ? say`costs nothing` : parts.join(', ')
}

/** The weeks that will hurt, each with what would make it lighter and what that costs. */
export function Heavy({ heavy, worth, onTry }: HeavyProps) {
  if (heavy.length === 0) return <T kind="quiet">{say`No week has more work than hours, or a quarter more than its share.`}</T>
  return (
    <View className="gap-4">
      {heavy.map((week) => (
        <View key={week.week} className="gap-2 border-l-4 border-l-copper pl-3">
          <T kind="strong">
            {week.over === 'hours'
              ? say`Week of ${plainDay(week.week)}: ${duration(week.loadMin)} of work for ${duration(week.capacityMin)}`
              : say`Week of ${plainDay(week.week)}: ${duration(week.loadMin)} of work, ${duration(week.levelMin)} would be its share`}
          </T>
          {week.help.length === 0 ? (
            <T kind="quiet">{say`No move makes it lighter for less than it costs. More hours that week would.`}</T>
          ) : (
            week.help.map((help) => (
              <View key={`${help.area} ${help.media}`} className="flex-row flex-wrap items-center gap-2">
                <View className="shrink grow basis-[240px]">
                  <T>
                    {say`${help.area}, ${help.media === null ? say`everything` : mediumName(help.media)} (${many(help.chains.length, 'task', 'tasks')}), ${whenText(help.byWeeks)}: ${duration(help.lighterMin)} less that week`}
                  </T>
                  <T kind="small">{priceText(help, worth)}</T>
                </View>
                {onTry ? <Button label={say`Move`} onPress={() => onTry(week.week, help)} /> : null}
              </View>
            ))
          )}
        </View>
      ))}
    </View>
  )
}
