import type { RoundTerms } from '@evenround/contract/rounds'
import { USUAL_WINDING } from '@evenround/core/round/roads'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { useMe } from '../../data/queries'
import { saveTerms } from '../../data/times'
import { FormEnd, FormField } from '../../parts/forms/form-fields'
import { requiredFigure } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { localDecimal } from '../../ui/locale'
import { T } from '../../ui/text'

const plainFigure = (value: number): string => String(value).replace('.', localDecimal())

type Key = keyof RoundTerms
const FIELDS: {
  key: Key
  label: string
  /** Empty: the firm's currency. */
  unit: string
  hint: string
  whole: boolean
  most: number
  shownAs?: (value: number) => string
  /** Of what is kept, how many make one as it is typed: cents of a coin. */
  perUnit?: number
}[] = [
  {
    key: 'hourMinor',
    label: say`An hour of a technician`,
    unit: '',
    hint: say`What an hour is worth: parts are weighed against drives by it.`,
    whole: true,
    most: 1_000_000,
    shownAs: (value) => plainFigure(value / 100),
    perUnit: 100,
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

const textOf = (terms: RoundTerms): Record<Key, string> =>
  Object.fromEntries(FIELDS.map(({ key, shownAs = plainFigure }) => [key, shownAs(terms[key] ?? USUAL_WINDING)])) as Record<Key, string>

const schema = z.object(
  Object.fromEntries(
    FIELDS.map(({ key, most, whole, perUnit = 1 }) => [
      key,
      requiredFigure({ least: 0, most: most / perUnit, whole: whole && perUnit === 1, message: say`a number up to ${most / perUnit}` }),
    ]),
  ) as Record<Key, ReturnType<typeof requiredFigure>>,
)

/** What the round is planned by. */
export function TermsForm({ terms, mayEdit }: { terms: RoundTerms; mayEdit: boolean }) {
  const currency = useMe().data?.firm.currency ?? ''
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: textOf(terms),
    save: async (read) => {
      const figures = FIELDS.map(({ key, perUnit }) => [key, perUnit === undefined ? read[key] : Math.round(read[key] * perUnit)])
      await saveTerms(Object.fromEntries(figures) as RoundTerms)
    },
  })
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`What the round is planned by`}
      </T>
      {FIELDS.map(({ key, label, unit, hint }) => (
        <FormField
          key={key}
          control={control}
          name={key}
          label={label}
          unit={unit || currency}
          hint={hint || undefined}
          inputMode="decimal"
          editable={mayEdit}
        />
      ))}
      {mayEdit ? (
        <FormEnd problem={problem} busy={busy} act={say`Save`} onSubmit={submit} />
      ) : (
        <T kind="quiet">{say`The owner sets these.`}</T>
      )}
    </View>
  )
}
