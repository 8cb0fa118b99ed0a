import { HOUSING_PROFILES, HOUSINGS } from '@evenround/core/catalogue'
import { changeNode, flowPath, type StageNode, setBypass, type Train, type TrainNode } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { askedIn, useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Choice, Tick } from '../../ui/choice'
import { Select } from '../../ui/select'
import { stagesOnly } from './editor-state'
import { KnownFields } from './known-fields'

interface NodeFormProps {
  train: Train
  node: TrainNode
  onChange: (train: Train) => void
}

/** What can be said of one thing in the train. */
export function NodeForm({ train, node, onChange }: NodeFormProps) {
  switch (node.kind) {
    case 'stage':
      return <StageForm train={train} node={node} onChange={onChange} />
    case 'valve':
      return (
        <Choice
          label={say`How does it turn?`}
          value={node.turns}
          options={[
            { value: 'quarter', label: say`Lever, quarter turn` },
            { value: 'multi', label: say`Wheel, several turns` },
          ]}
          onChange={(turns) => onChange(changeNode<'valve'>(train, node.id, { turns }))}
        />
      )
    case 'tank':
      return <TankForm train={train} node={node} onChange={onChange} />
    case 'outlet':
      return (
        <View className="gap-3">
          <Choice
            label={say`What is it for?`}
            value={node.use}
            options={[
              { value: 'drinking', label: say`Drinking` },
              { value: 'house', label: say`House` },
              { value: 'hose', label: say`Hose` },
              { value: 'appliance', label: say`Appliance` },
              { value: 'ice', label: say`Ice maker` },
            ]}
            onChange={(use) => onChange(changeNode<'outlet'>(train, node.id, { use }))}
          />
          <Tick
            label={say`Water must go on here`}
            hint={say`The sheet turns the bypass first, or asks for a quiet hour`}
            value={node.mustGoOn === true}
            onChange={(mustGoOn) => onChange(changeNode<'outlet'>(train, node.id, { mustGoOn }))}
          />
          <KnownFields key={node.id} train={train} node={node} onChange={onChange} />
        </View>
      )
    case 'pump':
      return <KnownFields train={train} node={node} onChange={onChange} />
    case 'bypass':
      return <BypassForm train={train} node={node} onChange={onChange} />
    default:
      return null
  }
}

type StageFlag = 'inletConfirmed' | 'monitored' | 'reliefButton' | 'ownShutoff' | 'washable'
const FLAGS: readonly { flag: StageFlag; label: string; hint: string; for?: (node: StageNode) => boolean }[] = [
  { flag: 'inletConfirmed', label: say`Inlet side confirmed`, hint: say`Somebody saw the mark: water comes from the side drawn` },
  { flag: 'monitored', label: say`A monitor counts for it`, hint: say`It is reset after the change` },
  {
    flag: 'reliefButton',
    label: say`Relief button on the head`,
    hint: say`Lets pressure out before it is opened`,
    for: ({ housing }) => housing.startsWith('sump'),
  },
  {
    flag: 'ownShutoff',
    label: say`Shut-off of its own`,
    hint: say`A small valve at this stage alone`,
    for: ({ housing }) => housing !== 'dry-slot',
  },
  {
    flag: 'washable',
    label: say`Washable element`,
    hint: say`Washed and refitted, with a count`,
    for: ({ media }) => media === 'sediment',
  },
]

function StageForm({ train, node, onChange }: NodeFormProps & { node: StageNode }) {
  const put = (patch: Partial<StageNode>): void => onChange(changeNode<'stage'>(train, node.id, patch))
  return (
    <View className="gap-3">
      <Select
        label={say`Housing`}
        value={node.housing}
        none={say`Housing`}
        groups={[{ label: say`Housing`, options: HOUSINGS.map((value) => ({ value, label: HOUSING_PROFILES[value].name })) }]}
        onChange={(housing) => {
          if (housing !== '') put({ housing })
        }}
      />
      {node.housing === 'dry-slot' || node.housing === 'uv-reactor' ? null : (
        <Choice
          label={say`Which end goes up?`}
          value={node.endUp ?? 'either'}
          options={[
            { value: 'either', label: say`Either` },
            { value: 'arrow', label: say`The arrow` },
            { value: 'washer', label: say`The washer` },
          ]}
          onChange={(endUp) => put({ endUp })}
        />
      )}
      {node.housing === 'sump-large' || node.housing === 'sump-small' ? (
        <Choice
          label={say`Drain cocks`}
          value={String(node.drainCocks ?? 0) as '0' | '1' | '2'}
          options={[
            { value: '0', label: say`None` },
            { value: '1', label: say`One` },
            { value: '2', label: say`Two` },
          ]}
          onChange={(cocks) => put({ drainCocks: Number(cocks) as 0 | 1 | 2 })}
        />
      ) : null}
      {node.housing === 'quarter-turn' || node.housing === 'fridge-cartridge' ? (
        <Tick
          label={say`Its head shuts itself`}
          hint={say`If not, it stands under line pressure and may burst off`}
          value={node.housing === 'quarter-turn' ? node.selfSealing !== false : node.selfSealing === true}
          onChange={(selfSealing) => put({ selfSealing })}
        />
      ) : null}
      {FLAGS.filter((one) => one.for?.(node) ?? true).map(({ flag, label, hint }) => (
        <Tick key={flag} label={label} hint={hint} value={node[flag] === true} onChange={(on) => put({ [flag]: on })} />
      ))}
      <KnownFields key={`${node.id} ${node.housing}`} train={train} node={node} onChange={onChange} />
    </View>
  )
}

function TankForm({ train, node, onChange }: NodeFormProps & { node: Extract<TrainNode, { kind: 'tank' }> }) {
  const units = useUnits()
  return (
    <View className="gap-3">
      <QuantityField
        key={node.id}
        label={say`Volume`}
        {...askedIn('volume', units)}
        value={node.volumeL}
        onChange={(volumeL) => {
          if (volumeL !== null && volumeL > 0) onChange(changeNode<'tank'>(train, node.id, { volumeL }))
        }}
      />
      <Tick
        label={say`It has a valve`}
        hint={say`Without one it is run empty before anything is opened`}
        value={node.valve}
        onChange={(valve) => onChange(changeNode<'tank'>(train, node.id, { valve }))}
      />
    </View>
  )
}

function BypassForm({ train, node, onChange }: NodeFormProps & { node: Extract<TrainNode, { kind: 'bypass' }> }) {
  const stages = stagesOnly(flowPath(train))
  const options = stages.map(({ id, position }) => ({ value: id, label: String(position) }))
  const from = Math.max(
    0,
    stages.findIndex(({ id }) => id === node.enters),
  )
  return (
    <View className="gap-3">
      <Choice
        label={say`It goes round from position`}
        value={node.enters}
        options={options}
        onChange={(enters) => {
          const begins = stages.findIndex(({ id }) => id === enters)
          const ends = stages.findIndex(({ id }) => id === node.leaves)
          onChange(setBypass(train, node.id, { enters, leaves: ends < begins ? enters : node.leaves }))
        }}
      />
      <Choice
        label={say`to position`}
        value={node.leaves}
        options={options.slice(from)}
        onChange={(leaves) => onChange(setBypass(train, node.id, { enters: node.enters, leaves }))}
      />
    </View>
  )
}
