import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { Button } from './button'
import { T } from './text'

/** Nothing here yet, and what to do about it. */
export function Empty({ title, text, act }: { title: string; text: string; act?: { label: string; onPress: () => void } }) {
  return (
    <View className="gap-2 rounded-card border-2 border-dashed border-line px-4 py-6">
      <T kind="heading" level={2}>
        {title}
      </T>
      <T>{text}</T>
      {act ? (
        <View className="mt-2 self-start">
          <Button label={act.label} onPress={act.onPress} />
        </View>
      ) : null}
    </View>
  )
}

/** What happened, what is safe, what to do. */
export function Failed({ what, error, onRetry }: { what: string; error: unknown; onRetry?: () => void }) {
  const message = error instanceof Error ? error.message : say`The reason is not known.`
  return (
    <View role="alert" className="gap-2 rounded-card border-2 border-line border-l-8 border-l-oxblood bg-sheet px-4 py-3">
      <T kind="heading" level={2}>
        {what}
      </T>
      <T>{message}</T>
      {onRetry ? (
        <View className="mt-1 self-start">
          <Button label={say`Try again`} onPress={onRetry} />
        </View>
      ) : null}
    </View>
  )
}

const PLACES = ['a', 'b', 'c', 'd', 'e', 'f'] as const

/** Grey places where the content will stand; said to screen readers once. */
export function Waiting({ rows = 3, what = say`Loading` }: { rows?: number; what?: string }) {
  return (
    <View role="status" aria-label={what} className="gap-3">
      {PLACES.slice(0, rows).map((place) => (
        <View key={place} className="h-16 rounded-card bg-line opacity-50" />
      ))}
    </View>
  )
}
