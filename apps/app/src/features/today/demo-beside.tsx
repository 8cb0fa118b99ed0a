import type { DemoDto } from '@evenround/contract/begin'
import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { queryClient } from '../../data/queries'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'

const DEMO = ['demo'] as const

/** A firm that works, to look at before one's own is filled: made-up people and customers, gone again at will. */
export function DemoBeside() {
  const demo = useQuery({ queryKey: DEMO, queryFn: () => ask(api.demo.$get()) }).data
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  if (!demo) return null
  const act = async (work: () => Promise<DemoDto>): Promise<void> => {
    setBusy(true)
    setProblem(null)
    try {
      queryClient.setQueryData(DEMO, await work())
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`It did not work. Try again.`)
    }
    setBusy(false)
  }
  return (
    <View className="gap-2 border-t-2 border-line pt-3">
      {demo.there ? (
        <>
          <T kind="strong">{say`The demo is there, in a firm of its own`}</T>
          <T>{say`Sign out and in again as one of these; the password of all is the same.`}</T>
          {demo.people.map(({ email, role, password }) => (
            <T key={email} selectable>{`${email} (${role}), ${password}`}</T>
          ))}
          <View className="self-start">
            <Button
              label={busy ? say`Throwing it away …` : say`Throw the demo away`}
              disabled={busy}
              onPress={() => void act(() => ask(api.demo.$delete()))}
            />
          </View>
        </>
      ) : (
        <>
          <T>{say`Or look first at a firm that works: made-up people, customers and a year of visits.`}</T>
          <View className="self-start">
            <Button
              label={busy ? say`Making the demo …` : say`Look at the demo`}
              disabled={busy}
              onPress={() => void act(() => ask(api.demo.$post()))}
            />
          </View>
        </>
      )}
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
