import type { SheetStep } from '@evenround/core/train'
import type { VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useEffect, useRef } from 'react'
import { View } from 'react-native'
import { soundOver } from '../../data/device'
import { useNow } from '../../data/now'
import { T } from '../../ui/text'
import { countdown, openTimers } from './sheet-view'

interface ClocksProps {
  state: VisitState
  steps: readonly SheetStep[]
  present: SheetStep | null
}

/** Every clock that runs or is over and not yet ticked off, other than the present step's own, which stands large on its rung. */
export function Clocks({ state, steps, present }: ClocksProps) {
  const now = useNow(state.timers.size > 0 ? 1000 : null)
  const open = openTimers(state, now)
  useSound(open.filter(({ seconds }) => seconds === 0).map(({ stepKey }) => stepKey))
  const others = open.filter(({ stepKey }) => stepKey !== present?.key)
  if (others.length === 0) return null
  return (
    <View className="border-b-2 border-line px-4 py-2">
      {others.map(({ stepKey, seconds }) => {
        const text = steps.find(({ key }) => key === stepKey)?.text ?? ''
        return (
          <T key={stepKey} kind="label" role="timer">
            {seconds > 0 ? `${countdown(seconds)} · ${text}` : say`Time is over · ${text}`}
          </T>
        )
      })}
    </View>
  )
}

/** Sounds once for each clock that ends while this page is open; those that were over before are old news. */
function useSound(over: readonly string[]): void {
  const known = useRef<Set<string> | null>(null)
  const key = over.join('\n')
  useEffect(() => {
    const now = new Set(key === '' ? [] : key.split('\n'))
    const fresh = known.current !== null && [...now].some((one) => !known.current?.has(one))
    known.current = now
    if (fresh) soundOver()
  }, [key])
}
