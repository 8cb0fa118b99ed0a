import type { HoldDto } from '@evenround/contract/site'
import type { HoldTold } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { tellHold } from '../../data/hold-acts'
import { useOutbox } from '../../data/outbox'
import { useMe } from '../../data/queries'
import { useMay } from '../../data/rights'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { instantText } from '../../ui/format'
import { T } from '../../ui/text'

type How = HoldTold['how']
const HOW: readonly { value: How; label: string }[] = [
  { value: 'telephone', label: say`by telephone` },
  { value: 'in-person', label: say`in person` },
  { value: 'message', label: say`by message` },
  { value: 'nobody-reached', label: say`nobody reached` },
]

const describeContact = ({ whom, how }: Pick<HoldTold, 'whom' | 'how'>): string =>
  how === 'nobody-reached'
    ? say`Tried ${whom}, nobody reached`
    : say`${whom} was told ${HOW.find(({ value }) => value === how)?.label ?? ''}`

/** Who knows of a hold, and the way to say that somebody was told. */
export function Told({ hold, siteId, contact = '' }: { hold: HoldDto; siteId: string; contact?: string }) {
  const me = useMe().data
  const mayRecord = useMay('record-facts')
  const [open, setOpen] = useState(false)
  // Said on this device a moment ago: the server's answer has it later.
  const own = useOutbox(({ entries }) =>
    entries.findLast(({ fact, state }) => fact.kind === 'hold-told' && fact.holdId === hold.id && state !== 'refused'),
  )?.fact
  const told = own?.kind === 'hold-told' ? { whom: own.whom, how: own.how, at: own.at, byName: me?.person.name ?? '' } : (hold.told ?? null)
  const reached = told !== null && told.how !== 'nobody-reached'
  return (
    <View className="gap-2">
      <T kind="small" className={reached ? '' : 'text-oxblood'}>
        {told === null
          ? say`No call is recorded yet.`
          : say`${describeContact(told)}, ${instantText(told.at, me?.firm.timeZone ?? 'UTC')}, by ${told.byName}.`}
      </T>
      {!mayRecord ? null : open ? (
        <ToldForm hold={hold} siteId={siteId} contact={contact} onDone={() => setOpen(false)} />
      ) : (
        <View className="self-start">
          <Button label={reached ? say`Record another call` : say`Record who was told`} onPress={() => setOpen(true)} />
        </View>
      )}
    </View>
  )
}

function ToldForm({ hold, siteId, contact, onDone }: { hold: HoldDto; siteId: string; contact: string; onDone: () => void }) {
  const [whom, setWhom] = useState(contact)
  const [how, setHow] = useState<How | null>(null)
  const [asked, setAsked] = useState(false)
  const save = async (): Promise<void> => {
    setAsked(true)
    if (whom.trim() === '' || how === null) return
    await tellHold(siteId, hold.id, whom.trim(), how)
    onDone()
  }
  return (
    <View className="gap-2">
      <Field
        label={say`Who was told`}
        value={whom}
        onChangeText={setWhom}
        maxLength={120}
        error={asked && whom.trim() === '' ? say`Name is required` : undefined}
      />
      <Choice label={say`How`} value={how} options={HOW} onChange={setHow} />
      {asked && how === null ? (
        <T kind="small" role="alert" className="text-oxblood">
          {say`Choose how`}
        </T>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Save`} kind="act" onPress={() => void save()} />
        <Button label={say`Cancel`} onPress={onDone} />
      </View>
    </View>
  )
}
