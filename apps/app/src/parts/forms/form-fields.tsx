import { say } from '@evenround/core/words'
import { type Control, Controller, type FieldPath, type FieldValues } from 'react-hook-form'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { DayField } from '../../ui/day-field'
import { Field, type FieldProps } from '../../ui/field'
import { Select, type SelectProps } from '../../ui/select'
import { T } from '../../ui/text'
import { Weekdays } from '../../ui/weekdays'
import { QuantityField, type QuantityFieldProps } from '../quantity/quantity-field'

interface Bound<Typed extends FieldValues> {
  // biome-ignore lint/suspicious/noExplicitAny: what a form is read as is nothing a field of it knows
  control: Control<Typed, unknown, any>
  name: FieldPath<Typed>
}

/** A field of a form: its problem stands under it once it was left, or the form was sent. */
export function FormField<Typed extends FieldValues>({
  control,
  name,
  ...field
}: Bound<Typed> & Omit<FieldProps, 'value' | 'onChangeText' | 'error' | 'onBlur'>) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange, onBlur }, fieldState }) => (
        <Field {...field} value={value} onChangeText={onChange} onBlur={onBlur} error={fieldState.error?.message} />
      )}
    />
  )
}

/** A calendar day of a form, by the browser's own picker. */
export function FormDay<Typed extends FieldValues>({ control, name, ...field }: Bound<Typed> & { label: string; hint?: string }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange }, fieldState }) => (
        <DayField {...field} value={value} onChange={onChange} error={fieldState.error?.message} />
      )}
    />
  )
}

/** One of a few of a form; those who may not change it see what stands. */
export function FormChoice<Typed extends FieldValues, V extends string>({
  control,
  name,
  label,
  options,
  mayEdit = true,
}: Bound<Typed> & { label: string; options: readonly { value: V; label: string }[]; mayEdit?: boolean }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange } }) => (
        <Choice label={label} value={value as V} options={options} onChange={(next) => mayEdit && onChange(next)} />
      )}
    />
  )
}

/** Yes or no of a form. */
export function FormTick<Typed extends FieldValues>({ control, name, ...tick }: Bound<Typed> & { label: string; hint?: string }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange } }) => <Tick {...tick} value={value} onChange={onChange} />}
    />
  )
}

/** A figure with its unit, kept as what it means; left empty where it must not be, that is said under it. */
export function FormQuantity<Typed extends FieldValues>({
  control,
  name,
  ...field
}: Bound<Typed> & Omit<QuantityFieldProps, 'value' | 'onChange' | 'problem'>) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange }, fieldState }) => (
        <QuantityField {...field} value={value} onChange={onChange} problem={fieldState.error?.message} />
      )}
    />
  )
}

/** Days of the week of a form. */
export function FormWeekdays<Typed extends FieldValues>({ control, name, label }: Bound<Typed> & { label: string }) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange }, fieldState: { error } }) => (
        <View className="gap-1">
          <T kind="label">{label}</T>
          <Weekdays label={label} value={value} onChange={onChange} />
          <FieldProblem text={error?.message} />
        </View>
      )}
    />
  )
}

/** What is wrong with something that has no field of its own to say it. */
export function FieldProblem({ text }: { text: string | undefined }) {
  return text ? (
    <T kind="small" role="alert" className="text-oxblood">
      {text}
    </T>
  ) : null
}

/** One of many of a form; its problem stands under it. */
export function FormSelect<Typed extends FieldValues, V extends string>({
  control,
  name,
  ...select
}: Bound<Typed> & Omit<SelectProps<V>, 'value' | 'onChange'>) {
  return (
    <Controller
      control={control}
      name={name}
      render={({ field: { value, onChange }, fieldState: { error } }) => (
        <View className="gap-1">
          <Select {...select} value={value as V | ''} onChange={onChange} />
          <FieldProblem text={error?.message} />
        </View>
      )}
    />
  )
}

interface FormEndProps {
  problem: string | null
  busy: boolean
  /** Nothing was changed yet. */
  disabled?: boolean
  /** What sending it does: "Save", "Add this base". */
  act: string
  onSubmit: () => void
  onCancel?: () => void
}

/** The end of a form: what was refused, and its two acts. */
export function FormEnd({ problem, busy, disabled = false, act, onSubmit, onCancel }: FormEndProps) {
  return (
    <View className="gap-3">
      {problem ? (
        <T role="alert" kind="strong" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <View className="flex-row flex-wrap gap-3">
        {onCancel ? <Button label={say`Cancel`} onPress={onCancel} /> : null}
        <Button label={busy ? say`Saving …` : act} kind="act" grow disabled={busy || disabled} onPress={onSubmit} />
      </View>
    </View>
  )
}
