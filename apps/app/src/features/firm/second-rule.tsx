import type { FirmDto } from '@evenround/contract/firm'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { queryClient } from '../../data/queries'
import { Tick } from '../../ui/choice'
import { T } from '../../ui/text'

/** Whether the firm asks its owners for a second factor. */
export function SecondRule({ firm }: { firm: FirmDto }) {
  const [problem, setProblem] = useState<string | null>(null)
  const choose = async (asked: boolean): Promise<void> => {
    setProblem(null)
    const { version, name, gallon, schools } = firm
    try {
      await ask(api.firm.$put({ json: { version, name, gallon, schools, secondFactor: asked ? 'owners' : 'free' } }))
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`It could not be saved.`)
    }
    await queryClient.invalidateQueries()
  }
  return (
    <View className="gap-2">
      <Tick
        label={say`Owners need a second factor`}
        hint={say`Who has none yet sets one up first; until then people, exports and settings stay closed to them`}
        value={firm.secondFactor === 'owners'}
        onChange={(asked) => void choose(asked)}
      />
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
