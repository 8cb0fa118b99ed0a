import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { carryOverHint, type Draft, type Judgement, type Meter, type Typed, typedInto, WATERS } from './judge'
import { NumberBox } from './number-box'

interface TwoWatersProps {
  draft: Draft
  meter: Meter
  judgement: Judgement
  onChange: (change: (before: Draft) => Draft) => void
}

/** The two big numbers, in the order in which they are dipped. */
export function TwoWaters({ draft, meter, judgement, onChange }: TwoWatersProps) {
  return (
    <View className="flex-row flex-wrap gap-3">
      {WATERS.map((water, index) => (
        <NumberBox
          key={water}
          label={water === 'untreated' ? say`Untreated` : say`Treated`}
          typed={draft[water]}
          meter={meter}
          reading={judgement[water]}
          hint={carryOverHint(water, draft, judgement)}
          onChange={(typed: Typed) => onChange((before) => typedInto(before, water, typed))}
          autoFocus={index === 0}
        />
      ))}
    </View>
  )
}
