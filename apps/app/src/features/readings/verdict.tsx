import type { ReactNode } from 'react'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { figure } from '../../ui/format'
import { Doubt, Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import type { Judgement, Typed, Water } from './judge'
import { keptKey } from './judge'
import { PassageBar } from './passage-bar'

const MEMBRANE_TITLES = {
  good: 'The membrane is good',
  watch: 'Watch the membrane',
  replace: 'The membrane is done',
  suspect: 'Check the reading first',
} as const
const MEMBRANE_TONES = { good: 'good', watch: 'look', replace: 'danger', suspect: 'look' } as const
const RESIN_TITLES = {
  good: 'The resin is good',
  'past-target': 'The resin is past its target',
  exhausted: 'The resin is exhausted',
} as const
const RESIN_TONES = { good: 'good', 'past-target': 'look', exhausted: 'danger' } as const

/** What the two numbers mean for this train, and which school says so. */
export function Verdict({ judgement }: { judgement: Judgement }): ReactNode {
  const { membrane, resin, untreated, treated } = judgement
  if (membrane) {
    const { result, inForce, other, limits } = membrane
    return (
      <View className="gap-3">
        {result.passage === null ? null : <PassageBar passage={result.passage} {...limits} />}
        <Notice tone={MEMBRANE_TONES[result.verdict]} title={MEMBRANE_TITLES[result.verdict]} live>
          <T>{result.why}</T>
          <T kind="quiet">{`${inForce}${other ? ` ${other}` : ''} The owner changes it under the firm.`}</T>
        </Notice>
      </View>
    )
  }
  if (resin) {
    const { usedFraction, capacityL, daysLeft, verdict } = resin.result
    return (
      <Notice tone={RESIN_TONES[verdict]} title={RESIN_TITLES[verdict]} live>
        <T>{`About ${figure(usedFraction * 100)} % of ${figure(capacityL)} L is used at this untreated water${daysLeft === null ? '' : `; ${Math.round(daysLeft)} days left`}.`}</T>
        <T kind="quiet">Litres are estimated from the people here; a counter would make it exact.</T>
      </Notice>
    )
  }
  if (untreated.result && treated.result) {
    return (
      <Notice tone="act" title="For the record" live>
        <T>
          Sediment and carbon take out dirt, taste and chlorine and leave TDS as it is: these two numbers should be nearly alike. They show
          a slip, not wear, and say nothing about germs.
        </T>
      </Notice>
    )
  }
  return null
}

interface DoubtsProps {
  judgement: Judgement
  typed: Record<Water, Typed>
  onChange: (water: Water, typed: Typed) => void
}

/** Doubtful values are asked about, never refused. */
export function Doubts({ judgement, typed, onChange }: DoubtsProps): ReactNode {
  return (['untreated', 'treated'] as const).map((water) => {
    const { doubt, result } = judgement[water]
    if (!doubt || !result) return null
    const one = typed[water]
    return (
      <Doubt key={water} title={`Is ${one.text.trim()} right for ${water}?`}>
        <T>{doubt.text}</T>
        <View className="flex-row flex-wrap gap-2">
          {doubt.offerTimesTen ? <Button label="The ×10 mark is on" onPress={() => onChange(water, { ...one, timesTen: true })} /> : null}
          <Button label={`Keep ${one.text.trim()}`} onPress={() => onChange(water, { ...one, kept: keptKey(one) })} />
        </View>
      </Doubt>
    )
  })
}
