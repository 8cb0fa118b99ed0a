import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'

/** What goes on the parts and to the customer, in words that can be read out, copied or sent on. */
export function Slip({ text, marks }: { text: string; marks: readonly string[] }) {
  const [said, setSaid] = useState<string | null>(null)
  const copy = async (what: string, words: string): Promise<void> => {
    try {
      await navigator.clipboard.writeText(words)
      setSaid(say`${what} is copied.`)
    } catch {
      setSaid(say`This browser does not let it be copied: press long on the text and copy it by hand.`)
    }
  }
  const share = (): void => {
    // Closing the sheet without choosing anybody is no failure.
    navigator.share({ text }).catch(() => undefined)
  }
  return (
    <View className="gap-4">
      {marks.length > 0 ? (
        <View className="gap-2">
          <T kind="heading" level={2}>
            {say`On the parts`}
          </T>
          {marks.map((mark) => (
            <T key={mark} kind="strong" selectable>
              {mark}
            </T>
          ))}
        </View>
      ) : null}
      <View className="gap-2">
        <T kind="heading" level={2}>
          {say`For the customer`}
        </T>
        <View className="rounded-card border-2 border-line bg-sheet px-4 py-3" testID="slip">
          <T selectable style={{ whiteSpace: 'pre-line' } as object}>
            {text}
          </T>
        </View>
        <View className="flex-row flex-wrap gap-2">
          <Button label={say`Copy the slip`} onPress={() => void copy(say`The slip`, text)} />
          {'share' in navigator ? <Button label={say`Send it on`} onPress={share} /> : null}
          {marks.length > 0 ? <Button label={say`Copy the marks`} onPress={() => void copy(say`Each mark`, marks.join('\n'))} /> : null}
        </View>
        {said ? (
          <T role="status" kind="small">
            {said}
          </T>
        ) : null}
      </View>
    </View>
  )
}
