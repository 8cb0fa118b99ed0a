import { say, sayFor } from '@evenround/core/words'
import { useEffect, useRef, useState } from 'react'
import { View } from 'react-native'
import type { InstrumentKind, Instruments, Measuring, Samples } from '../../data/instruments/instrument'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'
import type { Water } from './judge'

interface InstrumentsProps {
  instruments: Instruments
  /** Gauges of this stop an instrument can fill. */
  has: { counter: boolean; lamp: boolean; chlorine: boolean }
  onWater: (water: Water, sample: Samples['tds-meter']) => void
  onCounter: (litres: number) => void
  onLamp: (sample: Samples['lamp-controller']) => void
  onChlorine: (mgL: number) => void
}

interface Running {
  what: string
  shown: string
  measuring: Pick<Measuring<unknown>, 'hold' | 'stop'>
}

/** Instruments that fill the fields by themselves; each shows what it shows until it comes to rest. */
export function InstrumentBar({ instruments, has, onWater, onCounter, onLamp, onChlorine }: InstrumentsProps) {
  const [running, setRunning] = useState<Running | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  const open = useRef<Pick<Measuring<unknown>, 'stop'> | null>(null)
  // Left in the middle, nothing goes on measuring.
  useEffect(() => () => open.current?.stop(), [])
  function start<K extends InstrumentKind>(
    kind: K,
    where: string,
    what: string,
    text: (sample: Samples[K]) => string,
    take: (sample: Samples[K]) => void,
  ): void {
    const instrument = instruments[kind] as Instruments[K]
    if (!instrument || running) return
    setTrouble(null)
    const measuring = instrument.measure(where, (sample) => setRunning((now) => now && { ...now, shown: text(sample as Samples[K]) }))
    open.current = measuring
    setRunning({ what, shown: '…', measuring })
    measuring.ended.then(
      (sample) => {
        take(sample as Samples[K])
        setRunning(null)
      },
      (error: unknown) => {
        setTrouble(error instanceof Error ? error.message : say`The instrument was lost: type what it showed.`)
        setRunning(null)
      },
    )
  }
  const meter = (water: Water): void =>
    start(
      'tds-meter',
      water,
      say`TDS meter in ${water} water`,
      ({ display, timesTen, settled }) => `${display}${timesTen ? ' ×10' : ''}${settled ? say`, settled` : ''}`,
      (sample) => onWater(water, sample),
    )
  if (running)
    return (
      <View role="status" className="gap-2 rounded-card border-2 border-brine bg-sheet p-3">
        <T kind="label">{running.what}</T>
        <T kind="figure">{running.shown}</T>
        <View className="flex-row flex-wrap gap-3">
          <Button label={sayFor('value')`Hold`} hint={say`Takes the value as it stands`} onPress={running.measuring.hold} />
          <Button label={say`Stop`} onPress={running.measuring.stop} />
        </View>
      </View>
    )
  return (
    <View className="gap-2">
      <T kind="label">{say`Instruments`}</T>
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Dip: treated`} onPress={() => meter('treated')} />
        <Button label={say`Dip: untreated`} onPress={() => meter('untreated')} />
        {has.counter && instruments['pulse-counter'] ? (
          <Button
            label={say`Counter`}
            onPress={() =>
              start(
                'pulse-counter',
                'system',
                say`Counter`,
                ({ displayL }) => say`${displayL} L`,
                ({ displayL }) => onCounter(displayL),
              )
            }
          />
        ) : null}
        {has.lamp && instruments['lamp-controller'] ? (
          <Button
            label={say`Lamp`}
            onPress={() => start('lamp-controller', 'lamp', say`Lamp controller`, ({ hours }) => say`${hours} h`, onLamp)}
          />
        ) : null}
        {has.chlorine && instruments.photometer ? (
          <Button
            label={say`Photometer`}
            onPress={() =>
              start(
                'photometer',
                'carbon',
                say`Chlorine photometer`,
                ({ mgL, over }) => (over ? say`over its range` : say`${mgL.toFixed(2)} mg/L`),
                ({ mgL }) => onChlorine(mgL),
              )
            }
          />
        ) : null}
      </View>
      {trouble ? <T kind="small">{trouble}</T> : null}
    </View>
  )
}
