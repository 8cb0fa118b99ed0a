import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { useMe } from '../../data/queries'
import { instantText } from '../../ui/format'
import { T } from '../../ui/text'

/** The demo's mailbox: what would have gone out by mail. Nothing where mail really goes out, or none is set up. */
export function Mailbox() {
  const box = useQuery({ queryKey: ['mailbox'], queryFn: () => ask(api.mailbox.$get()), staleTime: 0 }).data
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  if (!box?.standIn) return null
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Mail of the demo`}
      </T>
      <T kind="quiet">{say`Nothing leaves this machine. What would have been sent stands here until the server ends.`}</T>
      {box.mails.length === 0 ? <T kind="quiet">{say`No mail yet.`}</T> : null}
      {box.mails.map(({ to, subject, text, at }) => (
        <View key={`${at}${to}`} className="gap-1 border-t-2 border-line py-2">
          <T kind="strong">{subject}</T>
          <T kind="small">{say`To ${to}, ${instantText(at, zone)}`}</T>
          <T selectable className="break-words">
            {text}
          </T>
        </View>
      ))}
    </View>
  )
}
