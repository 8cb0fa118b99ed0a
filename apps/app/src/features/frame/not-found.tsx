import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { Screen } from '../../ui/screen'
import { Empty } from '../../ui/states'

/** An address that leads nowhere, with a way back. */
export function NotFound() {
  const router = useRouter()
  return (
    <Screen title="Even Round">
      <Empty
        title={say`There is no such page`}
        text={say`The address may be mistyped, or what it showed has gone.`}
        act={{ label: say`To today’s stops`, onPress: () => router.replace('/today') }}
      />
    </Screen>
  )
}
