import { type KnownOfNode, sayKnown, type Train, type TrainNode } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { askedIn, useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'

interface KnownProps {
  train: Train
  node: TrainNode
  onChange: (train: Train) => void
}

/** What may be known of a thing in the train; left empty, the careful reading holds. */
export function KnownFields({ train, node, onChange }: KnownProps) {
  const units = useUnits()
  const word = (what: 'appliance' | 'reactor', label: string, hint: string, value: string | undefined) => (
    <Field
      label={label}
      hint={hint}
      value={value ?? ''}
      maxLength={80}
      onChangeText={(text) => onChange(sayKnown(train, node.id, what, text))}
    />
  )
  const amount = (what: 'flowLMin' | 'bedL', dimension: 'flow' | 'volume', label: string, hint: string, value: number | undefined) => (
    <QuantityField
      label={label}
      hint={hint}
      {...askedIn(dimension, units)}
      value={value ?? null}
      onChange={(now) => onChange(sayKnown(train, node.id, what, now !== null && now > 0 ? now : null))}
    />
  )
  if (node.kind === 'pump')
    return (
      <Choice
        label={say`What does it do?`}
        value={node.type ?? 'unknown'}
        options={[
          { value: 'well', label: say`Well pump` },
          { value: 'booster', label: say`Booster` },
          { value: 'delivery', label: say`Delivery` },
          { value: 'unknown', label: say`Not known` },
        ]}
        onChange={(type: KnownOfNode['type'] | 'unknown') => onChange(sayKnown(train, node.id, 'type', type === 'unknown' ? null : type))}
      />
    )
  if (node.kind === 'outlet')
    return (
      <>
        {amount('flowLMin', 'flow', say`Flow here`, say`Measured with a jug; flushes take their time by it`, node.flowLMin)}
        {word('appliance', say`Appliance`, say`The same word at two outlets: one plug`, node.appliance)}
      </>
    )
  if (node.kind !== 'stage') return null
  if (node.housing === 'uv-reactor')
    return word('reactor', say`Lamp chamber`, say`The same word on lamp and sleeve: one chamber`, node.reactor)
  return node.housing === 'media-tank' ? amount('bedL', 'volume', say`Medium in the tank`, say`As its label says`, node.bedL) : null
}
