import type { StagePageDto } from '@evenround/contract/due'
import { USE_MEASURES, type Use } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { stateUse } from '../../data/rules'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { figure } from '../../ui/format'
import { localDecimal } from '../../ui/locale'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'
import { FROM_USE_WORDS, MEASURE_WORDS, readUse, statedText } from './use-words'

type Level = 'stage' | 'system' | 'site'
const LEVELS: readonly { value: Level; label: string }[] = [
  { value: 'stage', label: say`this stage` },
  { value: 'system', label: say`this system` },
  { value: 'site', label: say`the whole site` },
]
const MEASURES = USE_MEASURES.map((value) => ({ value, label: MEASURE_WORDS[value].name }))

/** How much this stage is taken to see: what was said, what was learned, and (for who records) what they say. */
export function UseCard({ page, mayState }: { page: StagePageDto; mayState: boolean }) {
  const [open, setOpen] = useState(false)
  const { use } = page
  if (!use) return null
  const { expected, learned, said } = use
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>{say`Drawn: about ${figure(learned.litresPerDay)} L a day`}</T>
      <T>
        {learned.counted
          ? say`Learned: ${learned.evidence}. Before that it was taken to be ${figure(expected.litresPerDay)} L a day, ${FROM_USE_WORDS[expected.from]}.`
          : say`Not counted yet: ${figure(expected.litresPerDay)} L a day is ${FROM_USE_WORDS[expected.from]}. A counter would replace it.`}
      </T>
      {LEVELS.map(({ value, label }) => {
        const one = said[value]
        return one ? <T key={value} kind="quiet">{say`Said of ${label}: ${statedText(one)}.`}</T> : null
      })}
      {mayState && !open ? (
        <View className="self-start">
          <Button label={say`Say how much is drawn`} onPress={() => setOpen(true)} />
        </View>
      ) : null}
      {open ? <UseForm page={page} onDone={() => setOpen(false)} /> : null}
    </View>
  )
}

function UseForm({ page, onDone }: { page: StagePageDto; onDone: () => void }) {
  const units = useUnits()
  const [level, setLevel] = useState<Level>('system')
  const [by, setBy] = useState<Use['by']>('drinks-a-day')
  const [amount, setAmount] = useState('')
  const [fill, setFill] = useState('')
  const [wrong, setWrong] = useState<'amount' | 'fill' | null>(null)
  const [problem, setProblem] = useState<unknown>(null)
  const about = { stage: page.stage.id, system: page.stage.systemId, site: page.stage.siteId }[level]
  const save = async (use: Use | null): Promise<void> => {
    setProblem(null)
    try {
      await stateUse(level, about, use)
      onDone()
    } catch (error) {
      setProblem(error)
    }
  }
  const trySave = (): void => {
    const read = readUse(by, amount, fill, units, localDecimal())
    setWrong('wrong' in read ? read.wrong : null)
    if (!('wrong' in read)) void save(read)
  }
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Choice label={say`For`} value={level} options={LEVELS} onChange={setLevel} />
      <Choice label={say`How it is said`} value={by} options={MEASURES} onChange={setBy} />
      <View className="flex-row flex-wrap gap-3">
        <Field
          className="min-w-[160px] flex-1"
          label={say`How much`}
          unit={MEASURE_WORDS[by].unit}
          inputMode="decimal"
          maxLength={10}
          value={amount}
          onChangeText={setAmount}
          error={wrong === 'amount' ? say`A number above 0` : undefined}
          hint={by === 'cubic-metres-a-quarter' ? say`The whole house’s: for a site it counts for stages of the whole house.` : undefined}
        />
        {by === 'fills-a-week' ? (
          <Field
            className="min-w-[160px] flex-1"
            label={say`One fill`}
            unit={say`L`}
            inputMode="decimal"
            maxLength={10}
            value={fill}
            onChangeText={setFill}
            error={wrong === 'fill' ? say`Litres of one fill` : undefined}
          />
        ) : null}
      </View>
      {problem ? <Failed what={say`It was not saved`} error={problem} /> : null}
      <View className="flex-row flex-wrap gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        {page.use?.said[level] ? <Button label={say`Undo`} onPress={() => void save(null)} /> : null}
        <Button label={say`Save`} kind="act" grow onPress={trySave} />
      </View>
    </View>
  )
}
