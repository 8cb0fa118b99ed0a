import { say } from '@evenround/core/words'
import { Pressable } from 'react-native'
import { T } from './text'

/** A small way into a row's form, as tall as a thumb and read with the row's name. */
export function EditMark({ what, onPress }: { what: string; onPress: () => void }) {
  return (
    <Pressable
      role="button"
      aria-label={say`Edit ${what}`}
      onPress={onPress}
      className="min-h-[48px] min-w-[48px] items-center justify-center"
    >
      <T kind="label" className="underline">
        {say`Edit`}
      </T>
    </Pressable>
  )
}
