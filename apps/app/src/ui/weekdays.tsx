import { Pressable, View } from 'react-native'
import { weekdayLetters } from './format'
import { T } from './text'

interface WeekdaysProps {
  label: string
  /** ISO weekdays, 1 Monday to 7 Sunday. */
  value: readonly number[]
  onChange: (weekdays: number[]) => void
  disabled?: boolean
}

/** The days of a week, each on or off. */
export function Weekdays({ label, value, onChange, disabled = false }: WeekdaysProps) {
  return (
    <View className="flex-row flex-wrap gap-2" role="group" aria-label={label}>
      {weekdayLetters().map((name, index) => {
        const day = index + 1
        const on = value.includes(day)
        return (
          <Pressable
            key={name}
            role="checkbox"
            aria-checked={on}
            disabled={disabled}
            onPress={() => onChange(on ? value.filter((one) => one !== day) : [...value, day].sort((a, b) => a - b))}
            className={`min-h-[48px] min-w-[48px] items-center justify-center rounded-card border-2 px-2 ${on ? 'border-kelp bg-kelp' : 'border-line bg-paper'}`}
          >
            <T kind="label" className={on ? 'text-on-kelp' : 'text-ink'}>
              {name}
            </T>
          </Pressable>
        )
      })}
    </View>
  )
}
