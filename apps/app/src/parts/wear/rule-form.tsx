import { isIsoDay } from '@evenround/core/units'
import { CARES, DUE_BASES, type KeptRule } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { chooseRule, type RulePlace, useRulePreview } from '../../data/rules'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'
import { BY_WORDS, CARE_WHY, CARE_WORDS, previewText } from './rule-words'

const BASES = DUE_BASES.map((value) => ({ value, label: BY_WORDS[value].name }))
const CARE_OPTIONS = CARES.map((value) => ({ value, label: CARE_WORDS[value] }))
const MOST_MONTHS = 240

interface Typed {
  by: KeptRule['by']
  months: string
  anchor: string
  care: KeptRule['care']
  beyondLabel: boolean
}

/** What was typed as a rule; the field that is wrong where it is none. */
export function readRule({ by, months, anchor, care, beyondLabel }: Typed): KeptRule | { wrong: 'months' | 'anchor' } {
  if (by !== 'contract') return { by, months: null, anchor: null, care, beyondLabel: by === 'evidence' && beyondLabel }
  const count = Number(months.trim())
  if (months.trim() === '' || !Number.isInteger(count) || count < 1 || count > MOST_MONTHS) return { wrong: 'months' }
  const day = anchor.trim()
  if (day !== '' && !isIsoDay(day)) return { wrong: 'anchor' }
  return { by, months: count, anchor: day === '' ? null : day, care, beyondLabel: false }
}

interface RuleFormProps {
  place: RulePlace
  /** What stands now; the form begins with it. */
  rule: KeptRule
  /** What taking the choice back is called; null where there is none to take back. */
  takeBack: string | null
  onDone: () => void
}

/** Chooses the rule of the day to change for one level, and says what it would do before it is done. */
export function RuleForm({ place, rule, takeBack, onDone }: RuleFormProps) {
  const [typed, setTyped] = useState<Typed>(() => ({
    ...rule,
    months: rule.months === null ? '' : String(rule.months),
    anchor: rule.anchor ?? '',
  }))
  const [asked, setAsked] = useState(false)
  const [problem, setProblem] = useState<unknown>(null)
  const set = (patch: Partial<Typed>): void => setTyped((before) => ({ ...before, ...patch }))
  const read = readRule(typed)
  const chosen = 'wrong' in read ? null : read
  const preview = useRulePreview(place, chosen, chosen !== null)
  const save = async (next: KeptRule | null): Promise<void> => {
    setProblem(null)
    try {
      await chooseRule(place, next)
      onDone()
    } catch (error) {
      setProblem(error)
    }
  }
  const trySave = (): void => {
    setAsked(true)
    if (chosen) void save(chosen)
  }
  const wrong = asked && 'wrong' in read ? read.wrong : null
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Choice label={say`The day to change`} value={typed.by} options={BASES} onChange={(by) => set({ by })} />
      <T kind="small">{BY_WORDS[typed.by].why}</T>
      {typed.by === 'contract' ? (
        <View className="flex-row flex-wrap gap-3">
          <Field
            className="min-w-[140px] flex-1"
            label={say`Every`}
            unit={say`months`}
            inputMode="numeric"
            maxLength={3}
            value={typed.months}
            onChangeText={(months) => set({ months })}
            error={wrong === 'months' ? say`A whole number of months, 1 to ${MOST_MONTHS}` : undefined}
          />
          <DayField
            className="min-w-[180px] flex-1"
            label={say`Counted from`}
            value={typed.anchor}
            onChange={(anchor) => set({ anchor })}
            hint={say`Empty counts from each change. For every May: a day in May and 12 months.`}
            error={wrong === 'anchor' ? say`A day, or empty` : undefined}
          />
        </View>
      ) : (
        <>
          <Choice label={say`Care`} value={typed.care} options={CARE_OPTIONS} onChange={(care) => set({ care })} />
          <T kind="small">{CARE_WHY[typed.care]}</T>
          {typed.by === 'evidence' ? (
            <Tick
              label={say`May go past the label`}
              hint={say`Where the evidence is good. Lamps and sleeves never do.`}
              value={typed.beyondLabel}
              onChange={(beyondLabel) => set({ beyondLabel })}
            />
          ) : null}
        </>
      )}
      {preview.data && chosen ? <T role="status">{previewText(preview.data)}</T> : null}
      {problem ? <Failed what={say`The rule was not saved`} error={problem} /> : null}
      <View className="flex-row flex-wrap gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        {takeBack ? <Button label={takeBack} onPress={() => void save(null)} /> : null}
        <Button label={say`Save the rule`} kind="act" grow onPress={trySave} />
      </View>
    </View>
  )
}
