import { unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { T } from '../../ui/text'
import type { Meter } from './judge'

const SCALES = [
  { value: '0.5', label: '0.5' },
  { value: '0.64', label: '0.64' },
  { value: '0.7', label: '0.7' },
] as const

/** How the meter in the hand works; set once, kept on this device. */
export function MeterSettings({ meter, onChange }: { meter: Meter; onChange: (meter: Meter) => void }) {
  const units = useUnits()
  const [open, setOpen] = useState(false)
  const mgL = unitOf('concentration', units).text
  const words = say`Meter: ${meter.quantity === 'ec' ? say`EC in µS/cm` : say`TDS in ${mgL}`}, scale ${meter.scale}, ${meter.compensated ? say`corrects to 25 °C itself` : say`does not correct for temperature`}`
  return (
    <View className="gap-3">
      <View className="flex-row items-center gap-3">
        <T kind="quiet" className="flex-1">
          {words}
        </T>
        <Button label={open ? say`Done` : say`Change`} onPress={() => setOpen(!open)} hint={say`Settings of the meter`} />
      </View>
      {open ? (
        <View className="gap-3">
          <Choice
            label={say`The display shows`}
            value={meter.quantity}
            options={[
              { value: 'tds', label: say`TDS, ${mgL}` },
              { value: 'ec', label: say`EC, µS/cm` },
            ]}
            onChange={(quantity) => onChange({ ...meter, quantity })}
          />
          <Choice
            label={say`Its scale from EC to TDS`}
            value={String(meter.scale) as '0.5'}
            options={SCALES}
            onChange={(scale) => onChange({ ...meter, scale: Number(scale) as Meter['scale'] })}
          />
          <Tick
            label={say`Corrects to 25 °C by itself`}
            value={meter.compensated}
            onChange={(compensated) => onChange({ ...meter, compensated })}
          />
        </View>
      ) : null}
    </View>
  )
}
