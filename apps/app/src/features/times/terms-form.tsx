import type { RoundTerms } from '@evenround/contract/rounds'
import { USUAL_WINDING } from '@evenround/core/round/roads'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { saveTerms } from '../../data/times'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'

type Key = keyof RoundTerms
const FIELDS: {
  key: Key
  label: string
  unit: string
  hint: string
  whole: boolean
  most: number
  shownAs?: (value: number) => string
  readAs?: (value: number) => number
}[] = [
  {
    key: 'hourMinor',
    label: say`An hour of a technician`,
    unit: 'money',
    hint: say`What an hour is worth: parts are weighed against drives by it.`,
    whole: true,
    most: 1_000_000,
    shownAs: (value) => String(value / 100),
    readAs: (value) => Math.round(value * 100),
  },
  { key: 'accessMin', label: say`Access, each visit`, unit: 'min', hint: say`A site can have its own.`, whole: true, most: 240 },
  { key: 'setupMin', label: say`Closing, measuring, flushing, each system`, unit: 'min', hint: '', whole: true, most: 240 },
  {
    key: 'unevenness',
    label: say`Weight of workload balance`,
    unit: '×',
    hint: say`0 lets days be as they fall; 2 evens them hard.`,
    whole: false,
    most: 100,
  },
  {
    key: 'change',
    label: say`Moving a published visit`,
    unit: 'min',
    hint: say`It moves only for a gain of more than this.`,
    whole: false,
    most: 1000,
  },
  {
    key: 'winding',
    label: say`Winding of the roads`,
    unit: '×',
    hint: say`How much longer roads are than the line through the air: 1.2 in the plain, 1.5 in the hills. Ways are estimated by it.`,
    whole: false,
    most: 3,
  },
]

/** What the round is planned by. */
export function TermsForm({ terms, mayEdit }: { terms: RoundTerms; mayEdit: boolean }) {
  const [texts, setTexts] = useState(
    () => Object.fromEntries(FIELDS.map(({ key, shownAs = String }) => [key, shownAs(terms[key] ?? USUAL_WINDING)])) as Record<Key, string>,
  )
  const [problem, setProblem] = useState<unknown>(null)
  const read = ({ key, whole, most, readAs = (value: number) => value }: (typeof FIELDS)[number]): number | null => {
    const value = readAs(Number(texts[key].replace(',', '.')))
    return texts[key].trim() === '' || !Number.isFinite(value) || value < 0 || value > most || (whole && !Number.isInteger(value))
      ? null
      : value
  }
  const wrong = FIELDS.some((field) => read(field) === null)
  const save = async (): Promise<void> => {
    setProblem(null)
    try {
      await saveTerms(Object.fromEntries(FIELDS.map((field) => [field.key, read(field)])) as RoundTerms)
    } catch (error) {
      setProblem(error)
    }
  }
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`What the round is planned by`}
      </T>
      {FIELDS.map((field) => (
        <Field
          key={field.key}
          label={field.label}
          unit={field.unit}
          hint={field.hint || undefined}
          value={texts[field.key]}
          onChangeText={(text) => setTexts({ ...texts, [field.key]: text })}
          inputMode="decimal"
          editable={mayEdit}
          error={read(field) === null ? say`a number up to ${field.most}` : undefined}
        />
      ))}
      {problem ? <Failed what={say`Not saved`} error={problem} /> : null}
      {mayEdit ? (
        <Button label={say`Save`} kind="act" disabled={wrong} onPress={() => void save()} />
      ) : (
        <T kind="quiet">{say`The owner sets these.`}</T>
      )}
    </View>
  )
}
