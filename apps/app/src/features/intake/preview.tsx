import type { IntakePreview } from '@evenround/contract/intake'
import { numberText, say } from '@evenround/core/words'
import { View } from 'react-native'
import { T } from '../../ui/text'
import { countsText } from './intake-words'
import { LineProblems } from './line-problems'

/** Notes that stand on the screen. */
const SHOWN = 40

/** What a list would make, what is wrong with which line, and how the first systems will stand. */
export function Preview({ preview, onSave }: { preview: IntakePreview; onSave: () => void }) {
  const { counts, problems, notes, noted, systems } = preview
  return (
    <View className="gap-5">
      <T>{say`It makes ${countsText(counts)}.`}</T>
      <LineProblems problems={problems} onSave={onSave} />
      {systems.length > 0 ? (
        <View>
          <T kind="heading" level={2}>
            {say`As they will stand`}
          </T>
          {systems.map(({ site, system, isNew, stages }) => (
            <View key={`${site}${system}`} className="border-t-2 border-line py-2">
              <T kind="strong">{`${site} · ${system}${isNew ? '' : say` (there already)`}`}</T>
              <T kind="quiet">{stages.join('; ')}</T>
            </View>
          ))}
          {counts.systems > systems.length ? <T kind="small">{say`and ${numberText(counts.systems - systems.length)} more`}</T> : null}
        </View>
      ) : null}
      {noted > 0 ? (
        <View>
          <T kind="heading" level={2}>
            {say`Worth knowing`}
          </T>
          {notes.slice(0, SHOWN).map(({ line, notes: said }) => (
            <T key={line} kind="quiet">{say`Line ${line}: ${said.join('; ')}`}</T>
          ))}
          {noted > SHOWN ? <T kind="small">{say`and ${numberText(noted - SHOWN)} more`}</T> : null}
        </View>
      ) : null}
    </View>
  )
}
