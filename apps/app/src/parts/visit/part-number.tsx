import type { StopDto } from '@evenround/contract/site'
import { useState } from 'react'
import { View } from 'react-native'
import { canScan, scanCode } from '../../data/device'
import { useShelf } from '../../data/queries'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { FilePick } from '../../ui/file-pick'
import { T } from '../../ui/text'
import { numbersFor } from './part-check'

interface PartNumberProps {
  stage: StopDto['system']['stages'][number]
  value: string
  onChange: (value: string) => void
  /** Why this number does not belong here; null where nothing is known against it. */
  problem: string | null
}

/** Which part goes in: chosen among those that belong here, typed off the label, or read by the camera. */
export function PartNumber({ stage, value, onChange, problem }: PartNumberProps) {
  const known = numbersFor(stage)
  const parts = useShelf().data?.parts ?? []
  const [unread, setUnread] = useState(false)
  const scan = async (file: File): Promise<void> => {
    const code = await scanCode(file).catch(() => null)
    setUnread(code === null)
    // A bar code says which part it is; a code that is no part's own is taken as the number.
    if (code !== null) onChange(parts.find(({ barcode }) => barcode === code)?.partNumber ?? code)
  }
  return (
    <View className="gap-3">
      {known.length > 1 ? (
        <Choice
          label="Which one goes in?"
          value={value.trim()}
          options={known.map((number) => ({ value: number, label: number }))}
          onChange={onChange}
        />
      ) : null}
      <Field
        label="Part number on the new part"
        value={value}
        onChangeText={onChange}
        autoCapitalize="characters"
        maxLength={60}
        hint={
          known.length === 0 || known.includes(value.trim())
            ? 'Read it off the part before it is wet'
            : `Expected here: ${known.join(' or ')}`
        }
        error={problem ?? undefined}
      />
      {canScan() ? (
        <FilePick label="Read its code with the camera" accept="image/*" camera kind="plain" onFile={(file) => void scan(file)} />
      ) : null}
      {unread ? (
        <T role="alert" kind="small" className="text-copper-text">
          No code could be read on that picture. Type the number off the label.
        </T>
      ) : null}
    </View>
  )
}
