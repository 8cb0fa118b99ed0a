import { useId } from 'react'
import { View } from 'react-native'
import { T } from './text'

/** A calendar day by the browser's own picker; empty where none is chosen. */
export function DayField({ label, value, onChange }: { label: string; value: string; onChange: (day: string) => void }) {
  const id = useId()
  return (
    <View className="gap-1">
      <T kind="label" nativeID={id}>
        {label}
      </T>
      <input
        type="date"
        aria-labelledby={id}
        value={value}
        min="2000-01-01"
        max="2099-12-31"
        onChange={(event) => onChange(event.target.value)}
        className="min-h-[48px] rounded-card border-2 border-line bg-sheet px-3 font-text text-[17px] text-ink"
      />
    </View>
  )
}
