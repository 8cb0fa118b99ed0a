import type { BackupsDto } from '@evenround/contract/export'
import { many, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { useMe } from '../../data/queries'
import { instantText } from '../../ui/format'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'

const HOUR_MS = 3_600_000
/** One a day, and a few hours for a machine that was off. */
const OLD_HOURS = 30
const LOOK_AGAIN_MS = 60_000

function age(hours: number): string {
  if (hours < 1) return say`less than an hour`
  return hours < 48 ? many(Math.floor(hours), 'hour', 'hours') : many(Math.floor(hours / 24), 'day', 'days')
}

/** What an owner is told of the backups: one sentence, and whether somebody has to look. */
export function backupWords({ lastGood, checked, failedSince }: BackupsDto, now: number, timeZone: string): { text: string; bad: boolean } {
  const failed = failedSince === null ? '' : ` ${say`The try of ${instantText(failedSince, timeZone)} failed.`}`
  const look = ` ${say`Whoever runs the server has to look: what the firm keeps would be lost with its disk.`}`
  if (lastGood === null) return { text: say`There is no backup of this server yet.` + failed + look, bad: true }
  const hours = (now - Date.parse(lastGood)) / HOUR_MS
  const when = instantText(lastGood, timeZone)
  if (hours > OLD_HOURS) return { text: say`The last good backup is ${age(hours)} old (${when}).` + failed + look, bad: true }
  const good = checked
    ? say`The last good backup is ${age(hours)} old (${when}); it was restored to see that all of the firm is in it.`
    : say`The last good backup is ${age(hours)} old (${when}); nobody has restored it to look.`
  return { text: good + failed, bad: failedSince !== null }
}

/** How old the last good backup of the server is. */
export function Backups() {
  const backups = useQuery({ queryKey: ['backups'], queryFn: () => ask(api.backups.$get()), staleTime: 0, refetchInterval: LOOK_AGAIN_MS })
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  if (backups.error) return <Failed what={say`The backups cannot be shown`} error={backups.error} onRetry={() => void backups.refetch()} />
  if (!backups.data) return null
  const { text, bad } = backupWords(backups.data, Date.now(), zone)
  return (
    <View className="gap-1">
      <T kind="heading" level={2}>
        {say`Backups`}
      </T>
      <T role={bad ? 'alert' : undefined} className={bad ? 'text-oxblood' : ''}>
        {text}
      </T>
    </View>
  )
}
