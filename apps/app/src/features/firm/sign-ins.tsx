import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { KEY, queryClient, useMe, useSignIns } from '../../data/queries'
import { Button } from '../../ui/button'
import { instantText } from '../../ui/format'
import { T } from '../../ui/text'

const SHOWN = 4

/** Where a person is signed in; a lost device is signed out from here. */
export function SignIns({ personId }: { personId: string }) {
  const signIns = useSignIns(personId)
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const [problem, setProblem] = useState<string | null>(null)
  const [open, setOpen] = useState(false)
  const all = signIns.data?.signIns ?? []
  // This one and those used last; a device of long ago is a tap away.
  const shown = open
    ? all
    : [...all].sort((a, b) => Number(b.current) - Number(a.current) || (a.lastSeen < b.lastSeen ? 1 : -1)).slice(0, SHOWN)
  const end = async (signInId: string): Promise<void> => {
    setProblem(null)
    try {
      await ask(api.people[':id']['sign-ins'][':signInId'].$delete({ param: { id: personId, signInId } }))
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`It could not be ended.`)
    }
    await queryClient.invalidateQueries({ queryKey: KEY.signIns(personId) })
  }
  return (
    <View>
      <T kind="heading" level={2}>
        {say`Signed in on`}
      </T>
      {signIns.data?.signIns.length === 0 ? <T kind="quiet">{say`No device.`}</T> : null}
      {shown.map(({ id, device, since, lastSeen, current }) => (
        <View key={id} className="min-h-[56px] flex-row items-center gap-3 border-t-2 border-line py-1">
          <View className="flex-1">
            <T kind="strong">{`${device}${current ? say` (this one)` : ''}`}</T>
            <T kind="small">{say`signed in ${instantText(since, zone)}, last seen ${instantText(lastSeen, zone)}`}</T>
          </View>
          {current ? null : <Button label={say`Sign it out`} onPress={() => void end(id)} />}
        </View>
      ))}
      {all.length > shown.length ? (
        <View className="self-start pt-2">
          <Button label={say`Show all ${all.length}`} onPress={() => setOpen(true)} />
        </View>
      ) : null}
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
