import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { queryClient, useMe } from '../../data/queries'
import { useMay } from '../../data/rights'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { dayOfInstant, longDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

/** Sites whose customers left; each can stand again. */
export function LeftSites() {
  const left = useQuery({ queryKey: ['sites-left'], queryFn: () => ask(api['sites-left'].$get()) })
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const mayEdit = useMay('edit-sites')
  const [problem, setProblem] = useState<string | null>(null)
  const bringBack = async (id: string): Promise<void> => {
    setProblem(null)
    try {
      await ask(api.sites[':id']['come-back'].$post({ param: { id } }))
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.message : say`It could not be brought back. Try again.`)
    }
    await queryClient.invalidateQueries()
  }
  return (
    <Screen over={<BackLink href="/sites" label={say`Sites`} />} title={say`Customers who left`}>
      {problem ? (
        <T role="alert" kind="strong" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      {left.error ? <Failed what={say`They cannot be shown`} error={left.error} onRetry={() => void left.refetch()} /> : null}
      {left.isPending ? <Waiting /> : null}
      {left.data?.sites.length === 0 ? (
        <Empty title={say`Nobody has left`} text={say`A customer who leaves is put here from the site’s page.`} />
      ) : null}
      {left.data?.sites.map(({ id, name, village, leftAt }) => (
        <View key={id} className="min-h-[56px] flex-row flex-wrap items-center gap-3 border-b-2 border-line py-2">
          <View className="min-w-[200px] flex-1">
            <T kind="strong">{name}</T>
            <T kind="small">{say`${village === '' ? '' : `${village}, `}left ${longDay(dayOfInstant(leftAt, zone))}`}</T>
          </View>
          {mayEdit ? <Button label={say`Bring back`} onPress={() => void bringBack(id)} /> : null}
        </View>
      ))}
    </Screen>
  )
}
