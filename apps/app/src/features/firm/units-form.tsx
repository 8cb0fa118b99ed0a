import type { FirmDto, Units } from '@evenround/contract/firm'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { T } from '../../ui/text'
import { useFirmAct } from './act'

const VOLUMES = [
  { value: 'L', label: say`litres` },
  { value: 'gal', label: say`gallons` },
] as const
const GALLONS = [
  { value: 'us', label: say`US, 3.785 L` },
  { value: 'imperial', label: say`imperial, 4.546 L` },
] as const
const PRESSURES = [
  { value: 'kPa', label: say`kPa` },
  { value: 'bar', label: say`bar` },
  { value: 'psi', label: say`psi` },
] as const
const TEMPERATURES = [
  { value: 'C', label: say`°C` },
  { value: 'F', label: say`°F` },
] as const

/** What the firm's screens and papers speak; another unit can be typed after any number all the same. */
export function UnitsForm({ firm, mayEdit }: { firm: FirmDto; mayEdit: boolean }) {
  const [units, setUnits] = useState<Units>(firm.units)
  const [gallon, setGallon] = useState(firm.gallon)
  const { problem, act } = useFirmAct()
  const changed = gallon !== firm.gallon || JSON.stringify(units) !== JSON.stringify(firm.units)
  const save = (): void => {
    const { version, name, schools } = firm
    void act(() => ask(api.firm.$put({ json: { version, name, gallon, units, schools } })))
  }
  const choose = (patch: Partial<Units>): void => {
    if (mayEdit) setUnits({ ...units, ...patch })
  }
  return (
    <View className="gap-4">
      <T kind="heading" level={2}>
        {say`Units`}
      </T>
      <Choice label={say`Volume`} value={units.volume} options={VOLUMES} onChange={(volume) => choose({ volume })} />
      <Choice label={say`A gallon is`} value={gallon} options={GALLONS} onChange={(value) => mayEdit && setGallon(value)} />
      <Choice label={say`Pressure`} value={units.pressure} options={PRESSURES} onChange={(pressure) => choose({ pressure })} />
      <Choice
        label={say`Temperature`}
        value={units.temperature}
        options={TEMPERATURES}
        onChange={(temperature) => choose({ temperature })}
      />
      <T kind="small">
        {say`Another unit can be typed after any number: 45 psi, 12 gal, 3 bar. Records are kept metric, so nothing is lost by a change.`}
      </T>
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      {mayEdit ? <Button label={say`Save the units`} kind="act" disabled={!changed} onPress={save} /> : null}
    </View>
  )
}
