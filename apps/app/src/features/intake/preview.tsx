import type { IntakePreview } from '@evenround/contract/intake'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { countsText } from './intake-words'

/** Lines of trouble that stand on the screen; the file to mend holds them all. */
const SHOWN = 40

/** What a list would make, what is wrong with which line, and how the first systems will stand. */
export function Preview({ preview, onSave }: { preview: IntakePreview; onSave: () => void }) {
  const { counts, problems, bad, notes, noted, systems } = preview
  return (
    <View className="gap-5">
      <T>{`It makes ${countsText(counts)}.`}</T>
      {bad > 0 ? (
        <Notice tone="look" title={bad === 1 ? 'One line cannot come in yet' : `${bad.toLocaleString('en-GB')} lines cannot come in yet`}>
          <View role="list" aria-label="Lines to mend">
            {problems.slice(0, SHOWN).map(({ line, problems: wrong }) => (
              <View key={line} role="listitem" className="flex-row gap-3 border-t-2 border-line py-2">
                <T kind="label" className="w-[68px]">{`Line ${line}`}</T>
                <View className="min-w-0 flex-1">
                  {wrong.map(({ heading, message }) => (
                    <T key={`${heading}${message}`}>{heading ? `${heading}: ${message}` : message}</T>
                  ))}
                </View>
              </View>
            ))}
          </View>
          {bad > SHOWN ? <T kind="small">{`and ${(bad - SHOWN).toLocaleString('en-GB')} more`}</T> : null}
          <View className="self-start pt-1">
            <Button label="Save these lines to mend" onPress={onSave} />
          </View>
        </Notice>
      ) : null}
      {systems.length > 0 ? (
        <View>
          <T kind="heading" level={2}>
            As they will stand
          </T>
          {systems.map(({ site, system, isNew, stages }) => (
            <View key={`${site}${system}`} className="border-t-2 border-line py-2">
              <T kind="strong">{`${site} · ${system}${isNew ? '' : ' (there already)'}`}</T>
              <T kind="quiet">{stages.join('; ')}</T>
            </View>
          ))}
          {counts.systems > systems.length ? (
            <T kind="small">{`and ${(counts.systems - systems.length).toLocaleString('en-GB')} more`}</T>
          ) : null}
        </View>
      ) : null}
      {noted > 0 ? (
        <View>
          <T kind="heading" level={2}>
            Worth knowing
          </T>
          {notes.slice(0, SHOWN).map(({ line, notes: said }) => (
            <T key={line} kind="quiet">{`Line ${line}: ${said.join('; ')}`}</T>
          ))}
          {noted > SHOWN ? <T kind="small">{`and ${(noted - SHOWN).toLocaleString('en-GB')} more`}</T> : null}
        </View>
      ) : null}
    </View>
  )
}
