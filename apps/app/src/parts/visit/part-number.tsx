import type { StopDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { useShelf } from '../../data/queries'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { numbersFor } from './part-check'
import { ScanPart } from './scan-part'

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
  return (
    <View className="gap-3">
      {known.length > 1 ? (
        <Choice
          label={say`Which one goes in?`}
          value={value.trim()}
          options={known.map((number) => ({ value: number, label: number }))}
          onChange={onChange}
        />
      ) : null}
      <Field
        label={say`Part number on the new part`}
        value={value}
        onChangeText={onChange}
        autoCapitalize="characters"
        maxLength={60}
        hint={
          known.length === 0 || known.includes(value.trim())
            ? say`Read it off the part before it is wet`
            : say`Expected here: ${known.join(say` or `)}`
        }
        error={problem ?? undefined}
      />
      <ScanPart
        label={say`Read its code with the camera`}
        onCode={(code) => onChange(parts.find(({ barcode }) => barcode === code)?.partNumber ?? code)}
      />
    </View>
  )
}
