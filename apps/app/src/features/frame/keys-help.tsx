import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'

const KEYS = [
  ['1 – 5', say`Today, Round, Sites, Shelf, Book`],
  ['/', say`search the firm`],
  [say`j  k`, say`next and previous in a list`],
  [say`Enter`, say`open what is chosen, or do the present step`],
  ['n', say`new reading at the present stop`],
  ['↑  ↓', say`move the chosen visit to another day, on the round; Enter drops it, Esc cancels`],
  [say`p  f`, say`pin the chosen visit to its day, forbid that day`],
  ['[  ]', say`the week before and after`],
  ['?', say`this list`],
] as const

/** The keys, over the page until closed. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  return (
    <View
      role="dialog"
      aria-label={say`Keys`}
      className="absolute bottom-6 right-6 z-10 w-[380px] gap-2 rounded-card border-2 border-ink bg-sheet p-4"
    >
      <T kind="heading" level={2}>
        {say`Keys`}
      </T>
      {KEYS.map(([key, what]) => (
        <View key={key} className="flex-row gap-3">
          <T kind="label" className="w-16">
            {key}
          </T>
          <T className="flex-1">{what}</T>
        </View>
      ))}
      <Button label={say`Close`} onPress={onClose} />
    </View>
  )
}
