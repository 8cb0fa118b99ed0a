import { useId } from 'react'
import { View } from 'react-native'
import { T } from './text'

interface DayFieldProps {
  label: string
  value: string
  onChange: (day: string) => void
  hint?: string | undefined
  error?: string | undefined
  className?: string
}

/** A calendar day by the browser's own picker; empty where none is chosen. */
export function DayField({ label, value, onChange, hint, error, className = '' }: DayFieldProps) {
  const id = useId()
  const below = error ?? hint
  return (
    <View className={`gap-1 ${className}`}>
      <T kind="label" nativeID={id}>
        {label}
      </T>
      <input
        type="date"
        aria-labelledby={id}
        aria-describedby={below ? `${id}-below` : undefined}
        aria-invalid={error ? true : undefined}
        value={value}
        min="2000-01-01"
        max="2099-12-31"
        onChange={(event) => onChange(event.target.value)}
        className={`min-h-[48px] rounded-card border-2 bg-sheet px-3 font-text text-[17px] text-ink ${error ? 'border-oxblood' : 'border-line'}`}
      />
      {below ? (
        <T kind="small" nativeID={`${id}-below`} role={error ? 'alert' : undefined} className={error ? 'text-oxblood' : ''}>
          {below}
        </T>
      ) : null}
    </View>
  )
}
