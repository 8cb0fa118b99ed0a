import type { RoundChange, TodayDto } from '@evenround/contract/site'
import { many, say } from '@evenround/core/words'
import { View } from 'react-native'
import { useLocal } from '../../data/local'
import { useMe } from '../../data/queries'
import { Button } from '../../ui/button'
import { longDay } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

const MOST = 5

/** The publication this phone goes by, and what it changed for its person, until they have seen it. */
export function News({ today: { publication } }: { today: TodayDto }) {
  const me = useMe().data?.person
  const name = me?.name ?? ''
  const [seen, setSeen] = useLocal<number>(`even-round.publication-seen.${me?.id ?? ''}`, 0)
  if (!publication || publication.number <= seen) return null
  const { number, changes } = publication
  return (
    <Notice tone="act" title={say`Round number ${number} is published`} live>
      <T>
        {changes.length === 0
          ? say`Nothing of yours moved.`
          : many(changes.length, 'of your stops is on another day than before:', 'of your stops are on another day than before:')}
      </T>
      {changes.slice(0, MOST).map((change) => (
        <T key={change.visitId}>{changeText(change, name)}</T>
      ))}
      {changes.length > MOST ? <T kind="quiet">{say`and ${changes.length - MOST} more, see the round`}</T> : null}
      <View className="self-start">
        <Button label={say`Dismiss`} onPress={() => setSeen(number)} />
      </View>
    </Notice>
  )
}

/** "Kelp press: from Thursday 26 November to Friday 27 November". */
function changeText({ siteName, was, now }: RoundChange, own: string): string {
  const place = (one: { day: string; technician: string }): string =>
    `${longDay(one.day)}${one.technician === own ? '' : `, ${one.technician}`}`
  if (was && now) return say`${siteName}: from ${place(was)} to ${place(now)}`
  return now ? say`${siteName}: new on ${place(now)}` : say`${siteName}: off ${was ? place(was) : say`the road`}`
}
