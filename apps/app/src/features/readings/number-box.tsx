import { unitOf } from '@evenround/core/units'
import { midSentence, say } from '@evenround/core/words'
import { useId } from 'react'
import { Pressable, TextInput, View } from 'react-native'
import { useUnits } from '../../data/units'
import { figure } from '../../ui/format'
import { T } from '../../ui/text'
import type { JudgedReading, Meter, Typed } from './judge'

interface NumberBoxProps {
  label: string
  typed: Typed
  meter: Meter
  reading: JudgedReading
  /** What the probe still carries from the other water. */
  hint?: string | null
  onChange: (typed: Typed) => void
  autoFocus?: boolean
}

/** One of the two big numbers, with its mark and whether it had settled. */
export function NumberBox({ label, typed, meter, reading, hint = null, onChange, autoFocus = false }: NumberBoxProps) {
  const units = useUnits()
  const id = useId()
  const corrected = reading.result !== null && reading.display !== null && Math.abs(reading.result.tdsMgL - reading.display) > 0.05
  const mgL = unitOf('concentration', units).text
  const unit = meter.quantity === 'ec' ? 'µS/cm' : mgL
  const below =
    reading.error ??
    (corrected && reading.result
      ? say`= ${figure(reading.result.tdsMgL)} ${mgL} at 25 °C`
      : `${unit}${meter.compensated ? say` at 25 °C` : ''}`)
  return (
    <View
      className={`min-w-[150px] flex-1 gap-1 rounded-card border-2 bg-sheet p-3 ${reading.error ? 'border-oxblood' : 'border-line focus-within:border-kelp'}`}
    >
      <T kind="label" nativeID={`${id}-label`}>
        {label}
      </T>
      <TextInput
        value={typed.text}
        onChangeText={(text) => onChange({ ...typed, text })}
        aria-labelledby={`${id}-label`}
        aria-describedby={`${id}-below`}
        aria-invalid={reading.error ? true : undefined}
        inputMode="decimal"
        autoFocus={autoFocus}
        maxLength={16}
        placeholder="–"
        className="min-h-[56px] w-full font-text-bold text-[40px] text-ink tabular-nums"
      />
      <T kind="small" nativeID={`${id}-below`} role={reading.error ? 'alert' : undefined} className={reading.error ? 'text-oxblood' : ''}>
        {below}
      </T>
      {hint ? (
        <T kind="small" role="status" className="text-copper-text">
          {hint}
        </T>
      ) : null}
      <Toggle
        label={say`×10 mark, ${midSentence(label)}`}
        text={typed.timesTen ? say`×10 mark is on` : say`Meter shows ×10?`}
        on={typed.timesTen}
        onPress={() => onChange({ ...typed, timesTen: !typed.timesTen })}
      />
      <Toggle
        label={say`Settled, ${midSentence(label)}`}
        text={typed.settled ? say`settled, three agree` : say`Settled? Three agree`}
        on={typed.settled}
        onPress={() => onChange({ ...typed, settled: !typed.settled })}
      />
    </View>
  )
}

function Toggle({ label, text, on, onPress }: { label: string; text: string; on: boolean; onPress: () => void }) {
  return (
    <Pressable
      role="switch"
      aria-checked={on}
      aria-label={label}
      onPress={onPress}
      className={`min-h-[48px] justify-center rounded-card border-2 px-2 ${on ? 'border-kelp bg-paper' : 'border-line bg-paper'}`}
    >
      <T kind="label" className={on ? 'text-kelp' : 'text-quiet'}>
        {on ? `✓ ${text}` : text}
      </T>
    </Pressable>
  )
}
