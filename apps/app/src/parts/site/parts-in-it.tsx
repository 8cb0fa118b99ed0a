import type { PartDto } from '@evenround/contract/shelf'
import { type StageNode, stageLabel } from '@evenround/core/train'
import { isIsoDay } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import type { KnownPart } from '../../data/new-stage'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'
import { ScanPart } from '../visit/scan-part'
import { stageName } from '../wear/words'

/** What was typed of the parts that are in a system, by the stage they are in. */
export type PartsTyped = Readonly<Record<string, { partNumber: string; fittedOn: string }>>
const NOTHING = { partNumber: '', fittedOn: '' }

/** By its number, or by the code on its box. */
const isOf = ({ partNumber, barcode }: PartDto, typed: string): boolean => {
  const text = typed.trim().toLowerCase()
  return text !== '' && (partNumber.toLowerCase() === text || barcode.toLowerCase() === text)
}
const wrongDay = (day: string, today: string): boolean => day.trim() !== '' && (!isIsoDay(day.trim()) || day.trim() > today)

/** Whether every day that was typed is one that has been. */
export const daysHaveBeen = (typed: PartsTyped, today: string): boolean =>
  Object.values(typed).every(({ fittedOn }) => !wrongDay(fittedOn, today))

/** What was typed, as parts: those of the catalogue with their ratings; a place left empty has none. */
export const knownParts = (stages: readonly StageNode[], typed: PartsTyped, catalogue: readonly PartDto[]): KnownPart[] =>
  stages.flatMap(({ id }) => {
    const { partNumber, fittedOn } = typed[id] ?? NOTHING
    if (partNumber.trim() === '') return []
    const part = catalogue.find((one) => isOf(one, partNumber)) ?? null
    return [{ stageId: id, partNumber: partNumber.trim(), fittedOn: fittedOn.trim() || null, part }]
  })

interface PartsInItProps {
  stages: readonly StageNode[]
  typed: PartsTyped
  onTyped: (change: (before: PartsTyped) => PartsTyped) => void
  catalogue: readonly PartDto[]
  today: string
}

/** Parts that sit there already, stage by stage: scanned or typed, with the day where it is known. */
export function PartsInIt({ stages, typed, onTyped, catalogue, today }: PartsInItProps) {
  return stages.map((stage) => {
    const own = typed[stage.id] ?? NOTHING
    const set = (patch: Partial<typeof own>): void =>
      onTyped((before) => ({ ...before, [stage.id]: { ...(before[stage.id] ?? NOTHING), ...patch } }))
    const label = `${stage.position} · ${stageName(stage)}`
    return (
      <View key={stage.id} role="group" aria-label={label} className="gap-2 border-t-2 border-line pt-2">
        <T kind="strong">{label}</T>
        <T kind="small">{stageLabel(stage)}</T>
        <View className="flex-row flex-wrap gap-3">
          <Field
            label={say`Part number at ${stage.position}`}
            value={own.partNumber}
            onChangeText={(partNumber) => set({ partNumber })}
            maxLength={60}
            autoCapitalize="characters"
            autoCorrect={false}
            className="min-w-[200px] flex-1"
          />
          <ScanPart
            label={say`Scan the code at ${stage.position}`}
            onCode={(code) => set({ partNumber: catalogue.find((part) => isOf(part, code))?.partNumber ?? code })}
          />
          <DayField
            label={say`Fitted at ${stage.position}`}
            value={own.fittedOn}
            onChange={(fittedOn) => set({ fittedOn })}
            hint={say`where it is known`}
            error={wrongDay(own.fittedOn, today) ? say`A day that has been` : undefined}
            className="min-w-[160px]"
          />
        </View>
      </View>
    )
  })
}
