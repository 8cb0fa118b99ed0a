import { many, numberText, say } from '@evenround/core/words'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

/** Lines of trouble that stand on the screen; the file to mend holds them all. */
const SHOWN = 40

interface LineProblemsProps {
  problems: readonly { line: number; problems: readonly { heading: string | null; message: string }[] }[]
  onSave: () => void
}

/** What is wrong with which line of a list, and the way to mend it. */
export function LineProblems({ problems, onSave }: LineProblemsProps) {
  const bad = problems.length
  if (bad === 0) return null
  return (
    <Notice tone="look" title={many(bad, 'line cannot be imported yet', 'lines cannot be imported yet')}>
      <View role="list" aria-label={say`Lines to correct`}>
        {problems.slice(0, SHOWN).map(({ line, problems: wrong }) => (
          <View key={line} role="listitem" className="flex-row gap-3 border-t-2 border-line py-2">
            <T kind="label" className="w-[68px]">{say`Line ${line}`}</T>
            <View className="min-w-0 flex-1">
              {wrong.map(({ heading, message }) => (
                <T key={`${heading}${message}`}>{heading ? `${heading}: ${message}` : message}</T>
              ))}
            </View>
          </View>
        ))}
      </View>
      {bad > SHOWN ? <T kind="small">{say`and ${numberText(bad - SHOWN)} more`}</T> : null}
      <View className="self-start pt-1">
        <Button label={say`Save these lines to correct`} onPress={onSave} />
      </View>
    </Notice>
  )
}
