import { say } from '@evenround/core/words'
import { Redirect, Slot, usePathname, useRouter } from 'expo-router'
import { useEffect, useMemo, useState } from 'react'
import { View } from 'react-native'
import { ApiProblem } from '../../data/api'
import { useWeekOnDevice } from '../../data/day'
import { keepSigned } from '../../data/language'
import { listen } from '../../data/live'
import { draftsBelongTo } from '../../data/local'
import { deviceId, openOutbox, ownerKey } from '../../data/outbox'
import { openPhotos } from '../../data/photos'
import { queryClient, useMe } from '../../data/queries'
import { useDesk } from '../../ui/desk'
import { useKeys } from '../../ui/keys'
import { Failed, Waiting } from '../../ui/states'
import { KeysHelp } from './keys-help'
import { Navigation } from './navigation'
import { isAtDoor, PLACES } from './places'
import { Expired, SecondMissing, Update } from './strips'
import { UnsentStrip } from './unsent'

/** What stands round every screen once somebody is signed in. */
export function Frame() {
  const me = useMe()
  const desk = useDesk()
  const path = usePathname()
  const router = useRouter()
  const [help, setHelp] = useState(false)
  const owner = me.data ? ownerKey(me.data.firm.id, me.data.person.id) : null
  useEffect(() => {
    if (owner === null) return
    draftsBelongTo(owner)
    void openOutbox(owner)
    void openPhotos(owner)
    return listen(queryClient, deviceId())
  }, [owner])
  const signed = me.data?.firm.cautionsSigned
  useEffect(() => {
    // What was kept by an earlier version does not have it.
    if (signed) keepSigned(signed)
  }, [signed])
  const keys = useMemo(() => {
    const places = PLACES.map(({ key, href }) => [key, () => router.push(href)] as const)
    return {
      ...Object.fromEntries(places),
      '/': () => router.push('/search'),
      '?': () => setHelp((open) => !open),
      Escape: () => setHelp(false),
    }
  }, [router])
  useKeys(keys)
  useWeekOnDevice(me.data !== undefined)

  // A sign-in that ran out never blocks writing: who is at a door goes on, and signs in to send. Anywhere else it is asked for at once.
  const expired = me.error instanceof ApiProblem && me.error.code === 'NOT_SIGNED_IN'
  if (expired && !(me.data && isAtDoor(path))) return <Redirect href="/sign-in" />
  if (!me.data) {
    return (
      <View className="flex-1 justify-center bg-paper p-6">
        {me.error ? (
          <Failed what={say`Even Round cannot open`} error={me.error} onRetry={() => void me.refetch()} />
        ) : (
          <Waiting what={say`Opening`} />
        )}
      </View>
    )
  }
  const atTheDoor = isAtDoor(path)
  return (
    <View className={`flex-1 bg-paper ${desk ? 'flex-row' : ''}`}>
      {desk ? <Navigation rail name={me.data.person.name} /> : null}
      <View className="flex-1">
        <UnsentStrip />
        {expired ? <Expired /> : null}
        {me.data.secondMissing && path !== '/me' ? <SecondMissing /> : null}
        <Update path={path} />
        <Slot />
      </View>
      {desk || atTheDoor ? null : <Navigation rail={false} name={me.data.person.name} />}
      {help ? <KeysHelp onClose={() => setHelp(false)} /> : null}
    </View>
  )
}
