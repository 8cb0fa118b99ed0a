import type { SystemDto } from '@evenround/contract/site'
import type { DeviceDto } from '@evenround/contract/telemetry'
import { numberText, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { api, ask } from '../../data/api'
import { KEY, queryClient, useMe } from '../../data/queries'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { instantText, quantity } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'

const KINDS = [
  { value: 'pulse-counter', label: say`Water counter` },
  { value: 'lamp-controller', label: say`Lamp controller` },
] as const

/** What reports by itself from a site's systems, and adding one: its key is shown once. */
export function Devices({ systems, mayEdit }: { systems: readonly SystemDto[]; mayEdit: boolean }) {
  const devices = useQuery({ queryKey: KEY.devices, queryFn: () => ask(api.devices.$get()) })
  const [adding, setAdding] = useState<string | null>(null)
  const own = (devices.data?.devices ?? []).filter(({ systemId, active }) => active && systems.some(({ id }) => id === systemId))
  if (devices.error) return <Failed what={say`Devices cannot be shown`} error={devices.error} onRetry={() => void devices.refetch()} />
  if (systems.length === 0 || (own.length === 0 && !mayEdit)) return null
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Reporting by themselves`}
      </T>
      {own.length === 0 ? <T kind="quiet">{say`No counter or lamp controller here sends its own readings.`}</T> : null}
      {own.map((device) => (
        <Device key={device.id} device={device} system={systems.find(({ id }) => id === device.systemId)?.name ?? ''} mayEdit={mayEdit} />
      ))}
      {mayEdit && adding === null ? (
        <View className="flex-row flex-wrap gap-3">
          {systems.map(({ id, name }) => (
            <Button
              key={id}
              label={systems.length === 1 ? say`Add a device` : say`Add a device to ${name}`}
              onPress={() => setAdding(id)}
            />
          ))}
        </View>
      ) : null}
      {adding === null ? null : <NewDevice systemId={adding} onDone={() => setAdding(null)} />}
    </View>
  )
}

function Device({ device, system, mayEdit }: { device: DeviceDto; system: string; mayEdit: boolean }) {
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const units = useUnits()
  const { name, kind, lastAt, lastValue } = device
  const value =
    lastValue === null
      ? ''
      : kind === 'pulse-counter'
        ? quantity(lastValue, 'volume', units)
        : say`${numberText(Math.round(lastValue))} h lit`
  const [problem, setProblem] = useState<string | null>(null)
  const end = async (): Promise<void> => {
    try {
      await ask(api.devices[':id'].$delete({ param: { id: device.id } }))
      await queryClient.invalidateQueries({ queryKey: KEY.devices })
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`It could not be taken away.`)
    }
  }
  return (
    <View className="flex-row items-center gap-3 border-t-2 border-line py-2">
      <View className="flex-1">
        <T kind="strong">{name}</T>
        <T kind="quiet">{`${system} · ${lastAt === null ? say`has not reported yet` : `${value}, ${instantText(lastAt, zone)}`}`}</T>
        {problem ? <T className="text-oxblood">{problem}</T> : null}
      </View>
      {mayEdit ? (
        <Button label={say`Take away`} hint={say`Its key stops working; what it reported stays`} onPress={() => void end()} />
      ) : null}
    </View>
  )
}

function NewDevice({ systemId, onDone }: { systemId: string; onDone: () => void }) {
  const [name, setName] = useState('')
  const [kind, setKind] = useState<DeviceDto['kind']>('pulse-counter')
  const [key, setKey] = useState<string | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const add = async (): Promise<void> => {
    if (name.trim() === '') return setProblem(say`Give it a name, such as “House main, counter”.`)
    try {
      const answer = await ask(api.devices.$post({ json: { id: uuidv7(), systemId, name, kind } }))
      setKey(answer.key)
      await queryClient.invalidateQueries({ queryKey: KEY.devices })
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`It could not be added.`)
    }
  }
  if (key !== null)
    return (
      <Notice tone="look" title={say`Write its key into the device now`} live>
        <T selectable className="break-all font-text-bold">
          {key}
        </T>
        <T kind="small">
          {say`It is shown this once and kept nowhere. The device sends to /api/telemetry with “authorization: Device” and this key.`}
        </T>
        <View className="self-start pt-2">
          <Button label={say`Done`} onPress={onDone} />
        </View>
      </Notice>
    )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Choice label={say`What is it?`} value={kind} options={KINDS} onChange={setKind} />
      <Field label={say`Name`} value={name} onChangeText={setName} maxLength={80} error={problem ?? undefined} />
      <View className="flex-row flex-wrap gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        <Button label={say`Add it`} kind="act" grow onPress={() => void add()} />
      </View>
    </View>
  )
}
