import type { VisitPageDto } from '@evenround/contract/book'
import type { Fact } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { takeBackFact } from '../../data/corrections'
import { stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'

export function stageTitle({ system }: VisitPageDto, stageId: string): string {
  const stage = system?.stages.find(({ id }) => id === stageId)
  return stage ? `${stage.position} · ${stageName(stage)}` : say`A stage that is no longer there`
}

/** One recorded thing with its fields, the way to keep them, and the way to take it back. */
export function Card({
  title,
  children,
  ready,
  onKeep,
  fact,
}: {
  title: string
  children: React.ReactNode
  ready: boolean
  onKeep: () => void
  fact: Fact
}) {
  return (
    <View className="gap-2 rounded-card border-2 border-line bg-sheet p-3" role="group" aria-label={title}>
      <T kind="strong">{title}</T>
      {children}
      <View className="flex-row flex-wrap gap-2">
        {fact.kind === 'visit-finished' ? null : (
          <Button label={say`It never happened: withdraw it`} onPress={() => void takeBackFact(fact)} />
        )}
        <Button label={say`Record the correction`} kind="act" disabled={!ready} onPress={onKeep} />
      </View>
    </View>
  )
}
