import type { ShownUnits } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { duration, quantity } from '../../ui/format'
import { Segments } from '../../ui/segments'
import { T } from '../../ui/text'
import type { DraftOutlet } from './draft'
import { litresOf } from './draft-plan'
import { BoreSelect, unitFor } from './part-row'

/** One outlet: its name, its side, and the pipe to it, from which its place in the order and its arrival time come. */
export function OutletRow({
  outlet,
  onChange,
  onRemove,
}: {
  outlet: DraftOutlet
  onChange: (outlet: DraftOutlet) => void
  onRemove: () => void
}) {
  const units = useUnits()
  const [open, setOpen] = useState(false)
  const litres = litresOf(outlet)
  const minutes = outlet.flowLMin === null ? null : litres / outlet.flowLMin
  return (
    <View className="gap-2 rounded-card border-2 border-line bg-sheet px-3 py-1" role="group" aria-label={outlet.name}>
      <View className="flex-row items-center gap-2">
        <Pressable role="button" aria-expanded={open} onPress={() => setOpen(!open)} className="min-h-[48px] flex-1 justify-center">
          <T kind="strong">{outlet.name}</T>
          {outlet.assumed ? (
            <T kind="small" className="text-copper-text">
              {say`${quantityOf(outlet, units)} of pipe is assumed: open it and say how far it is`}
            </T>
          ) : null}
          <T kind="quiet">{say`${outlet.side} · ${quantity(litres, 'volume', units)} of pipe${minutes === null ? '' : ` · ${minutes < 1 ? say`under a minute` : duration(minutes)}`}`}</T>
        </Pressable>
        <Button label={say`Take away`} onPress={onRemove} />
      </View>
      {open ? <Details outlet={outlet} onChange={onChange} /> : null}
    </View>
  )
}

const quantityOf = ({ metres }: DraftOutlet, units: ShownUnits): string =>
  units.volume === 'gal' ? say`${Math.round((metres ?? 0) / 0.3048)} ft` : say`${metres ?? 0} m`

function Details({ outlet, onChange }: { outlet: DraftOutlet; onChange: (outlet: DraftOutlet) => void }) {
  const units = useUnits()
  return (
    <View className="gap-2 pb-2">
      <Field label={say`Outlet`} value={outlet.name} onChangeText={(name) => onChange({ ...outlet, name })} maxLength={60} />
      <Segments
        label={say`Side of ${outlet.name}`}
        value={outlet.side}
        words={{ cold: say`Cold`, hot: say`Hot` }}
        onChange={(side) => onChange({ ...outlet, side })}
      />
      <View className="flex-row flex-wrap gap-2">
        <QuantityField
          label={say`Pipe from the entry`}
          {...unitFor('long', units)}
          value={outlet.metres}
          onChange={(metres) => onChange({ ...outlet, metres, assumed: false })}
          className="min-w-[120px] flex-1"
        />
        <QuantityField
          label={say`Flow here`}
          {...unitFor('flow', units)}
          value={outlet.flowLMin}
          onChange={(flowLMin) => onChange({ ...outlet, flowLMin })}
          className="min-w-[120px] flex-1"
        />
      </View>
      <BoreSelect value={outlet.bore} onChange={(bore) => onChange({ ...outlet, bore, assumed: false })} />
    </View>
  )
}
