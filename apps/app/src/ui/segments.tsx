import { Pressable, View } from 'react-native'
import { T } from './text'

/** One of a few in a row, for what a list shows and in which order. */
export function Segments<V extends string>({
  label,
  value,
  words,
  onChange,
}: {
  label: string
  /** Null while nothing is chosen. */
  value: V | null
  words: Record<V, string>
  onChange: (value: V) => void
}) {
  return (
    <View role="radiogroup" aria-label={label} className="flex-row flex-wrap overflow-hidden rounded-card border-2 border-line bg-sheet">
      {(Object.keys(words) as V[]).map((option) => {
        const on = option === value
        return (
          <Pressable
            key={option}
            role="radio"
            aria-checked={on}
            onPress={() => onChange(option)}
            className={`min-h-[48px] grow items-center justify-center px-3 ${on ? 'bg-kelp' : ''}`}
          >
            <T kind="label" className={on ? 'text-on-kelp' : 'text-ink'}>
              {words[option]}
            </T>
          </Pressable>
        )
      })}
    </View>
  )
}
