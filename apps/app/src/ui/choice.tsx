import { Pressable, View } from 'react-native'
import { T } from './text'

interface ChoiceProps<V extends string> {
  label: string
  value: V | null
  options: readonly { value: V; label: string }[]
  onChange: (value: V) => void
  /** Hides the label from the eye, not from a screen reader. */
  quietLabel?: boolean
}

/** One of a few: every option stands there, none is hidden in a list that opens. */
export function Choice<V extends string>({ label, value, options, onChange, quietLabel = false }: ChoiceProps<V>) {
  return (
    <View className="gap-1" role="radiogroup" aria-label={label}>
      {quietLabel ? null : <T kind="label">{label}</T>}
      <View className="flex-row flex-wrap gap-2">
        {options.map((option) => {
          const chosen = option.value === value
          return (
            <Pressable
              key={option.value}
              role="radio"
              aria-checked={chosen}
              onPress={() => onChange(option.value)}
              className={`min-h-[48px] flex-1 ${options.length === 4 ? 'min-w-[40%]' : 'min-w-min'} items-center justify-center rounded-card border-2 px-3 py-2 ${chosen ? 'border-kelp bg-kelp' : 'border-line bg-sheet'}`}
            >
              <T kind="label" className={`min-w-[60px] text-center ${chosen ? 'text-on-kelp' : 'text-ink'}`}>
                {option.label}
              </T>
            </Pressable>
          )
        })}
      </View>
    </View>
  )
}

interface TickProps {
  label: string
  hint?: string
  value: boolean
  onChange: (value: boolean) => void
  disabled?: boolean
}

/** A box with a tick, as tall as a thumb. */
export function Tick({ label, hint, value, onChange, disabled = false }: TickProps) {
  return (
    <Pressable
      role="checkbox"
      aria-checked={value}
      aria-disabled={disabled}
      disabled={disabled}
      onPress={() => onChange(!value)}
      className={`min-h-[56px] flex-row items-center gap-3 rounded-card border-2 px-3 py-2 ${value ? 'border-kelp bg-sheet' : 'border-line bg-sheet'}`}
    >
      <View className={`h-7 w-7 items-center justify-center rounded-[4px] border-2 ${value ? 'border-kelp bg-kelp' : 'border-quiet'}`}>
        {value ? <T className="text-on-kelp">✓</T> : null}
      </View>
      <View className="flex-1">
        <T kind="strong">{label}</T>
        {hint ? <T kind="small">{hint}</T> : null}
      </View>
    </Pressable>
  )
}
