import { MEMBRANE_WORTH_MGL, SPOT_FREE_MGL, type Taste } from '@evenround/core/readings'
import { say } from '@evenround/core/words'
import type { ReactNode } from 'react'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { figure, inTrade, quantity } from '../../ui/format'
import { Doubt, Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { type Judgement, keptKey, type Typed, WATERS, type Water } from './judge'
import { PassageBar } from './passage-bar'

const MEMBRANE_TITLES = {
  good: say`The membrane is good`,
  watch: say`Watch the membrane`,
  replace: say`The membrane needs replacing`,
  suspect: say`Check the reading first`,
} as const
const MEMBRANE_TONES = { good: 'good', watch: 'look', replace: 'danger', suspect: 'look' } as const
const RESIN_TITLES = {
  good: say`The resin is good`,
  'past-target': say`The resin is past its target`,
  exhausted: say`The resin is exhausted`,
} as const
const RESIN_TONES = { good: 'good', 'past-target': 'look', exhausted: 'danger' } as const

/** What the two numbers mean for this train, and which school says so. */
export function Verdict({ judgement, doubted = false }: { judgement: Judgement; doubted?: boolean }): ReactNode {
  const units = useUnits()
  const { membrane, resin, untreated, treated } = judgement
  // A value that is asked about says nothing yet; the forecast does not have it either.
  if (untreated.doubt || treated.doubt) return null
  if (membrane) {
    const { result, inForce, other, limits } = membrane
    return (
      <View className="gap-3">
        {result.passage === null ? null : <PassageBar passage={result.passage} {...limits} />}
        <Notice
          tone={doubted ? 'look' : MEMBRANE_TONES[result.verdict]}
          title={doubted ? say`Measure again: the readings before say otherwise` : MEMBRANE_TITLES[result.verdict]}
          live
        >
          <T>{result.why}</T>
          {doubted ? <T>{say`One reading unlike all before it is held for a slip until a second one, on another day, agrees.`}</T> : null}
          <T kind="quiet">{say`${inForce}${other ? ` ${other}` : ''} The owner changes it under the firm.`}</T>
        </Notice>
      </View>
    )
  }
  if (resin) {
    const { usedFraction, capacityL, daysLeft, verdict } = resin.result
    return (
      <Notice tone={RESIN_TONES[verdict]} title={RESIN_TITLES[verdict]} live>
        <T>{say`About ${figure(usedFraction * 100)} % of ${quantity(capacityL, 'volume', units)} is used at this untreated water${daysLeft === null || verdict === 'exhausted' ? '' : say`; ${Math.round(daysLeft)} days left`}.`}</T>
        <T kind="quiet">{say`Litres are estimated from the people here; a counter would make it exact.`}</T>
      </Notice>
    )
  }
  if (untreated.result && treated.result) {
    return (
      <Notice tone="act" title={say`For the record`} live>
        <T>
          {say`Sediment and carbon take out dirt, taste and chlorine and leave TDS as it is: these two numbers should be nearly alike. They show a slip, not wear, and say nothing about germs.`}
        </T>
      </Notice>
    )
  }
  return null
}

const TASTE_WORDS: Record<Taste, string> = {
  excellent: say`tastes excellent (up to 300 mg/L)`,
  good: say`tastes good (300 to 600 mg/L)`,
  fair: say`tastes fair (600 to 900 mg/L)`,
  poor: say`tastes poor (900 to 1,200 mg/L)`,
  unacceptable: say`is not liked to drink (over 1,200 mg/L)`,
}

/** What the water is fit for, with where the limits come from; nothing before both numbers stand. */
export function FitFor({ judgement: { fit, untreated, treated } }: { judgement: Judgement }): ReactNode {
  const units = useUnits()
  if (!fit || untreated.doubt || treated.doubt) return null
  return (
    <View className="gap-1">
      <T kind="label">{say`What it is fit for`}</T>
      <T>
        {inTrade(
          say`To drink it ${TASTE_WORDS[fit.taste]}. ${fit.spotFree ? say`Glass dries without spots.` : say`Glass dries without spots below about ${SPOT_FREE_MGL} mg/L.`}`,
          units,
        )}
      </T>
      {fit.membraneWorth ? <T kind="strong">{inTrade(say`Worth a membrane: over ${MEMBRANE_WORTH_MGL} mg/L untreated.`, units)}</T> : null}
      {fit.germsOpen ? (
        <T kind="strong">{say`Dissolved solids say nothing of germs: a supply of one’s own wants a lamp or boiling, and a sample a year.`}</T>
      ) : null}
      <T kind="small">
        {inTrade(say`Taste: World Health Organization, 2003. 500 mg/L: US secondary standard. Local limits come first.`, units)}
      </T>
    </View>
  )
}

interface DoubtsProps {
  judgement: Judgement
  typed: Record<Water, Typed>
  onChange: (water: Water, typed: Typed) => void
}

/** Doubtful values are asked about, never refused. */
export function Doubts({ judgement, typed, onChange }: DoubtsProps): ReactNode {
  return WATERS.map((water) => {
    const { doubt, result } = judgement[water]
    if (!doubt || !result) return null
    const one = typed[water]
    return (
      <Doubt key={water} title={say`Is ${one.text.trim()} right for ${water}?`}>
        <T>{doubt.text}</T>
        <View className="flex-row flex-wrap gap-2">
          {doubt.offerTimesTen ? (
            <Button label={say`The ×10 mark is on`} onPress={() => onChange(water, { ...one, timesTen: true })} />
          ) : null}
          <Button label={say`Keep ${one.text.trim()}`} onPress={() => onChange(water, { ...one, kept: keptKey(one) })} />
        </View>
      </Doubt>
    )
  })
}
