import type { ShownUnits } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { Tick } from '../../ui/choice'
import { Field } from '../../ui/field'
import { quantity } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { type Gauge, type GaugeDraft, type ReadGauges, STARTED_OVER } from './gauges-view'
import { StripScale } from './strip-scale'

interface GaugesProps {
  gauges: readonly Gauge[]
  draft: GaugeDraft
  read: ReadGauges
  /** What the readings did to the forecasts. */
  effects: readonly { stageId: string; text: string }[]
  lastCounterL: number | null
  units: ShownUnits
  onChange: (id: string, text: string) => void
}

/** Everything read besides the two waters, in the order it is taken; each says at once what it did to the forecast. */
export function Gauges({ gauges, draft, read, effects, lastCounterL, units, onChange }: GaugesProps) {
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`Gauges`}
      </T>
      <View className="flex-row flex-wrap gap-3">
        {gauges.map((gauge) => (
          <View key={gauge.id} className={gauge.kind === 'strip' || gauge.name === 'counterL' ? 'w-full' : 'min-w-[150px] flex-1'}>
            {gauge.kind === 'strip' ? (
              <StripScale
                label={`${gauge.label}, ${gauge.unit}`}
                value={draft[gauge.id] ?? ''}
                onChange={(text) => onChange(gauge.id, text)}
              />
            ) : (
              <Field
                label={gauge.label}
                value={draft[gauge.id] ?? ''}
                onChangeText={(text) => onChange(gauge.id, text)}
                unit={gauge.unit}
                inputMode="decimal"
                maxLength={16}
                error={read.errors.get(gauge.id)}
                hint={
                  gauge.name === 'counterL' && lastCounterL !== null
                    ? say`last seen at ${quantity(lastCounterL, 'volume', units)}`
                    : undefined
                }
              />
            )}
            {gauge.name === 'counterL' ? <CounterQuestion read={read} draft={draft} onChange={onChange} /> : null}
          </View>
        ))}
      </View>
      <Told effects={effects} />
    </View>
  )
}

/** What readings did to the forecasts, a line a stage. */
export function Told({ effects }: { effects: readonly { stageId: string; text: string }[] }) {
  if (effects.length === 0) return null
  return (
    <Notice tone="good" title={say`What that tells`} live>
      {effects.map(({ stageId, text }) => (
        <T key={stageId}>{text}</T>
      ))}
    </Notice>
  )
}

/** A counter that reads less than before: rolled over, replaced, or misread. */
function CounterQuestion({ read, draft, onChange }: Pick<GaugesProps, 'read' | 'draft' | 'onChange'>) {
  const { counterStep } = read
  if (counterStep === 'rolled-over') return <T kind="small">{say`It went past its last place and began again: counted as a roll-over.`}</T>
  if (counterStep !== 'backward' && draft[STARTED_OVER] !== 'yes') return null
  return (
    <View className="gap-2 pt-2">
      {counterStep === 'backward' ? (
        <T kind="small" role="alert" className="text-oxblood">
          {say`Less than when it was last seen. Look again; or was a new meter put in, or the old one set to nothing?`}
        </T>
      ) : null}
      <Tick
        label={say`New meter, or set to nothing`}
        hint={say`Counted from 0 since then`}
        value={draft[STARTED_OVER] === 'yes'}
        onChange={(yes) => onChange(STARTED_OVER, yes ? 'yes' : '')}
      />
    </View>
  )
}
