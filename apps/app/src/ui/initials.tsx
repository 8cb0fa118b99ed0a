import { say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { Pressable } from 'react-native'
import { T } from './text'

const initialsOf = (name: string): string =>
  name
    .split(/\s+/)
    .map((word) => word.charAt(0))
    .join('')
    .slice(0, 2)

/** One's own settings and the firm stand behind the initials. */
export function Initials({ name }: { name: string }) {
  return (
    <Link href="/me" aria-label={say`${name}: own settings and the firm`} asChild>
      <Pressable className="h-12 w-12 items-center justify-center rounded-card border-2 border-line bg-sheet">
        <T kind="label">{initialsOf(name)}</T>
      </Pressable>
    </Link>
  )
}
