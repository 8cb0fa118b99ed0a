import { useId } from 'react'
import { TextInput, type TextInputProps, View } from 'react-native'
import { T } from './text'

export interface FieldProps extends Omit<TextInputProps, 'value' | 'onChangeText'> {
  label: string
  value: string
  onChangeText: (text: string) => void
  /** Beside the field, e.g. the unit. */
  unit?: string
  hint?: string | undefined
  error?: string | undefined
  className?: string
}

/** A labelled field; its problem stands under it and is read with it. */
export function Field({ label, value, onChangeText, unit, hint, error, multiline, className = '', ...rest }: FieldProps) {
  const id = useId()
  const below = error ?? hint
  return (
    <View className={`gap-1 ${className}`}>
      <T kind="label" nativeID={`${id}-label`}>
        {label}
      </T>
      <View
        className={`flex-row items-center rounded-card border-2 bg-sheet ${error ? 'border-oxblood' : 'border-line focus-within:border-kelp'}`}
      >
        <TextInput
          value={value}
          onChangeText={onChangeText}
          aria-labelledby={`${id}-label`}
          aria-describedby={below ? `${id}-below` : undefined}
          aria-invalid={error ? true : undefined}
          multiline={multiline}
          className={`min-w-0 flex-1 px-3 font-text text-[17px] text-ink tabular-nums ${multiline ? 'min-h-[96px] py-2' : 'min-h-[48px]'}`}
          {...rest}
        />
        {unit ? (
          <T kind="quiet" className="pr-3">
            {unit}
          </T>
        ) : null}
      </View>
      {below ? (
        <T kind="small" nativeID={`${id}-below`} role={error ? 'alert' : undefined} className={error ? 'text-oxblood' : ''}>
          {below}
        </T>
      ) : null}
    </View>
  )
}
