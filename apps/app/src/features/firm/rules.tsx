import type { HindsightDto } from '@evenround/contract/wear'
import { mediumName } from '@evenround/core/catalogue'
import { many, numberText, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useMe } from '../../data/queries'
import { useDueRules, useHindsight } from '../../data/rules'
import { RuleForm } from '../../parts/wear/rule-form'
import { BY_WORDS, ruleText } from '../../parts/wear/rule-words'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { shortDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'

/** By which rule the firm changes parts, what others would have meant for its own past, and where it differs from site to site. */
export function RulesScreen() {
  const rules = useDueRules()
  const me = useMe()
  const [editing, setEditing] = useState(false)
  const back = <BackLink href="/firm" label={say`The firm`} />
  if (!rules.data || !me.data)
    return (
      <Screen over={back} title={say`The day to change`}>
        {rules.error ? (
          <Failed what={say`The rules cannot be shown`} error={rules.error} onRetry={() => void rules.refetch()} />
        ) : (
          <Waiting />
        )}
      </Screen>
    )
  const { firm, media, own } = rules.data
  const { today, rights } = me.data
  const mayChoose = rights.includes('change-schools')
  const ownText = [
    ...(own.site > 0 ? [many(own.site, 'site', 'sites')] : []),
    ...(own.system > 0 ? [many(own.system, 'system', 'systems')] : []),
    ...(own.stage > 0 ? [many(own.stage, 'stage', 'stages')] : []),
  ]
  return (
    <Screen over={back} title={say`The day to change`} wide>
      <View className="gap-2">
        <T kind="heading" level={2}>{say`The firm: ${ruleText(firm, today)}`}</T>
        <T kind="quiet">{BY_WORDS[firm.by].why}</T>
        {mayChoose && !editing ? (
          <View className="self-start">
            <Button label={say`Change the firm’s rule`} onPress={() => setEditing(true)} />
          </View>
        ) : null}
        {editing ? (
          <RuleForm place={{ level: 'firm', about: 'firm' }} rule={firm} takeBack={null} onDone={() => setEditing(false)} />
        ) : null}
        {mayChoose ? null : <T kind="quiet">{say`The owner chooses it.`}</T>}
      </View>
      <Past />
      <View className="gap-1">
        <T kind="heading" level={2}>
          {say`Where it differs`}
        </T>
        {media.map(({ media: medium, rule }) => (
          <T key={medium}>{`${mediumName(medium)}: ${ruleText(rule, today)}`}</T>
        ))}
        <T>
          {ownText.length === 0
            ? say`No site, system or stage has a rule of its own. It is chosen on the page of a stage, and comes in with a list of customers.`
            : say`Chosen for ${ownText.join(', ')}: on the page of each stage.`}
        </T>
        <T kind="quiet">{say`For a kind of part it is chosen on the shelf, under Media.`}</T>
      </View>
      <View className="gap-2">
        <T kind="heading" level={2}>
          {say`Contracts to talk about`}
        </T>
        <TextLink href="/due?until=all&advice=shorten" label={say`Likely spent well before their day`} />
        <TextLink href="/due?until=all&advice=lengthen" label={say`Far from done on their day`} />
      </View>
    </Screen>
  )
}

/** The firm's own two years by each rule. */
function Past() {
  const past = useHindsight()
  const today = useMe().data?.today ?? ''
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Your own last two years`}
      </T>
      {past.data ? (
        <>
          <T>{pastText(past.data, today)}</T>
          <View role="table" aria-label={say`What each rule would have meant`} className="max-w-[720px]">
            <PastRow name={say`Rule`} parts={say`Parts`} late={say`Days past the end`} spread={say`give or take`} head />
            <PastRow {...cells(say`As it was done`, past.data.done)} />
            {past.data.rules.map(({ rule, ...sums }, index) => (
              <PastRow key={JSON.stringify(rule)} {...cells(`${index === 0 ? say`Now: ` : ''}${ruleText(rule, today)}`, sums)} />
            ))}
          </View>
          <T kind="small">
            {say`Nobody saw the true ends: days past the end are expected from all that is known today, what was found in the parts included.`}
          </T>
        </>
      ) : past.error ? (
        <Failed what={say`The past cannot be worked out`} error={past.error} onRetry={() => void past.refetch()} />
      ) : (
        <Waiting rows={3} what={say`Working out the last two years`} />
      )}
    </View>
  )
}

function pastText({ from, to, looked, all }: HindsightDto, today: string): string {
  const some = looked < all ? say`${looked} of about ${all}` : String(looked)
  return say`${shortDay(from, today)} to ${shortDay(to, today)}: ${some} parts in service, changed as each rule says.`
}

const cells = (name: string, { parts, lateDays, lateSpread }: HindsightDto['done']) => ({
  name,
  parts: numberText(Math.round(parts)),
  late: numberText(Math.round(lateDays)),
  spread: `± ${numberText(Math.round(lateSpread))}`,
})

function PastRow({
  name,
  parts,
  late,
  spread,
  head = false,
}: {
  name: string
  parts: string
  late: string
  spread: string
  head?: boolean
}) {
  const kind = head ? 'label' : 'body'
  return (
    <View role="row" className="flex-row items-baseline gap-3 border-t-2 border-line py-2">
      <T role={head ? 'columnheader' : 'rowheader'} kind={head ? 'label' : 'strong'} className="flex-1">
        {name}
      </T>
      {[
        [parts, 'w-[64px]'],
        [late, 'w-[88px]'],
        [spread, 'w-[72px]'],
      ].map(([text, width]) => (
        <T key={width} role={head ? 'columnheader' : 'cell'} kind={kind} className={`${width} text-right`}>
          {text}
        </T>
      ))}
    </View>
  )
}
