import { say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { Pressable } from 'react-native'
import { COLOR } from './colors'
import { Icon } from './icons'

/** The magnifier, on a phone: search from here. */
export function FindLink() {
  return (
    <Link href="/search" asChild>
      <Pressable aria-label={say`Search`} className="h-12 w-12 items-center justify-center">
        <Icon name="search" color={COLOR.ink} size={24} />
      </Pressable>
    </Link>
  )
}
