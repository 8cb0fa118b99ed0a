import type { FirmDto } from '@evenround/contract/firm'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { Tick } from '../../ui/choice'
import { T } from '../../ui/text'
import { useFirmAct } from './act'

/** Whether the firm asks its owners for a second factor. */
export function SecondRule({ firm }: { firm: FirmDto }) {
  const { problem, act } = useFirmAct()
  const choose = (asked: boolean): void => {
    const { version, name, gallon, schools } = firm
    void act(() => ask(api.firm.$put({ json: { version, name, gallon, schools, secondFactor: asked ? 'owners' : 'free' } })))
  }
  return (
    <View className="gap-2">
      <Tick
        label={say`Owners need a second factor`}
        hint={say`Who has none yet sets one up first; until then people, exports and settings stay closed to them`}
        value={firm.secondFactor === 'owners'}
        onChange={choose}
      />
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
