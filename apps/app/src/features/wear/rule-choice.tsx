import type { StagePageDto } from '@evenround/contract/due'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import type { RulePlace } from '../../data/rules'
import { RuleForm } from '../../parts/wear/rule-form'
import { BY_WORDS, FROM_WORDS, ruleText } from '../../parts/wear/rule-words'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { T } from '../../ui/text'

type Reach = 'stage' | 'system' | 'site'
const REACHES: readonly { value: Reach; label: string; wider: string }[] = [
  { value: 'stage', label: say`this stage`, wider: say`As the system has it` },
  { value: 'system', label: say`this system`, wider: say`As the site has it` },
  { value: 'site', label: say`the whole site`, wider: say`As the firm has it` },
]
const ADVICE_WORDS = {
  shorten: say`Such a part is likely spent well before the contract’s day: a shorter contract would spare complaints.`,
  lengthen: say`Such a part is far from done on the contract’s day: a longer contract would waste less.`,
}

/** By which rule this stage's part is changed, who chose it, and (for who may) another one for the stage, its system or its site. */
export function RuleChoice({ page, mayChoose }: { page: StagePageDto; mayChoose: boolean }) {
  const [open, setOpen] = useState(false)
  const [reach, setReach] = useState<Reach>('stage')
  const { due, stage, today, ruledAt } = page
  if (!due) return null
  const { rule } = due
  const places: Record<Reach, RulePlace> = {
    stage: { level: 'stage', about: stage.id },
    system: { level: 'system', about: stage.systemId },
    site: { level: 'site', about: stage.siteId },
  }
  const { from: _, ...kept } = rule
  const wider = REACHES.find(({ value }) => value === reach)?.wider ?? ''
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>{say`The day to change: ${ruleText(rule, today)}`}</T>
      <T kind="quiet">{`${FROM_WORDS[rule.from].charAt(0).toUpperCase()}${FROM_WORDS[rule.from].slice(1)}. ${BY_WORDS[rule.by].why}`}</T>
      <T>{say`On that day ${Math.round(100 * due.risk)} in 100 such parts are over; ${Math.round(100 * due.accepted)} in 100 is what its label accepts with this care.`}</T>
      {due.advice ? <T kind="strong">{ADVICE_WORDS[due.advice]}</T> : null}
      {mayChoose && !open ? (
        <View className="self-start">
          <Button label={say`Change the rule`} onPress={() => setOpen(true)} />
        </View>
      ) : null}
      {open ? (
        <View className="gap-3">
          <Choice label={say`For`} value={reach} options={REACHES} onChange={setReach} />
          <RuleForm
            key={reach}
            place={places[reach]}
            rule={kept}
            takeBack={ruledAt.includes(reach) ? wider : null}
            onDone={() => setOpen(false)}
          />
        </View>
      ) : null}
    </View>
  )
}
