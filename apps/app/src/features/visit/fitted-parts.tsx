import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { recordFitting, type VisitPlace } from '../../data/visit-acts'
import { gradeWord } from '../../parts/visit/grades'
import type { OpenSheet } from '../../parts/visit/sheet'
import { stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'
import { notFitted } from './finish-view'

/** Parts that went in, by position, with what was found before them and the mark for the cartridge. */
export function FittedParts({ place, sheet }: { place: VisitPlace; sheet: OpenSheet }) {
  const { stop, state } = place
  const missing = notFitted(stop, state, sheet)
  const shown = stop.system.stages.filter(
    ({ id }) => state.fitted.has(id) || state.removed.has(id) || missing.some((stage) => stage.id === id),
  )
  if (shown.length === 0) return null
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Parts`}
      </T>
      {shown.map((stage) => {
        const fitted = state.fitted.get(stage.id)
        const removed = state.removed.get(stage.id)
        return (
          <View key={stage.id} className="gap-1 border-t-2 border-line pt-2">
            <T kind="strong">{`${stage.position} · ${stageName(stage)}${fitted ? ` · ${fitted.partNumber}` : ''}`}</T>
            {removed ? (
              <T kind="quiet">{say`Taken out: ${gradeWord(removed.found)}${removed.dirtPast ? say`, dirt had got past it` : ''}`}</T>
            ) : null}
            {fitted ? <Mark text={fitted.markText} /> : null}
            {!fitted && missing.some(({ id }) => id === stage.id) ? (
              <View className="flex-row items-center gap-3">
                <T kind="quiet" className="flex-1 text-copper-text">
                  {say`No new part recorded.`}
                </T>
                {stage.nextPart ? (
                  <Button
                    label={say`Fitted ${stage.nextPart.partNumber}`}
                    onPress={() => void recordFitting(place, stage.id, stage.nextPart?.partNumber ?? '')}
                  />
                ) : null}
              </View>
            ) : null}
          </View>
        )
      })}
    </View>
  )
}

function Mark({ text }: { text: string }) {
  return (
    <View className="flex-row items-center gap-2">
      <T kind="small">{say`on the part:`}</T>
      <T kind="label" selectable>
        {text}
      </T>
    </View>
  )
}
