import { isUnderWay } from '@evenround/contract/lists'
import { many, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { Button } from '../../ui/button'
import { Notice } from '../../ui/notice'
import { saveAs } from '../../ui/save-as'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { AtWork, LOOK_EVERY_MS } from './at-work'
import type { Sent } from './intake'

/** A list that was handed in: how far it is, then where to look and what is left to correct. It goes on when this page is left. */
export function BroughtIn({ sent }: { sent: Sent }) {
  const intake = useQuery({
    queryKey: [...KEY.intakes, sent.id],
    queryFn: () => ask(api.intakes[':id'].$get({ param: { id: sent.id } })),
    refetchInterval: (query) => (query.state.data === undefined || isUnderWay(query.state.data) ? LOOK_EVERY_MS : false),
  })
  const state = intake.data?.state
  useEffect(() => {
    if (state === 'done') for (const root of ['sites', 'site', 'due', 'today']) void queryClient.invalidateQueries({ queryKey: [root] })
  }, [state])
  if (!intake.data)
    return intake.error ? (
      <Failed what={say`How far it is cannot be shown`} error={intake.error} onRetry={() => void intake.refetch()} />
    ) : (
      <Waiting />
    )
  const { left } = intake.data
  if (state !== 'done')
    return (
      <Notice tone={state === 'failed' ? 'look' : 'act'} title={sent.name} live>
        <AtWork intake={intake.data} />
      </Notice>
    )
  return (
    <Notice tone="good" title={say`${sent.name} is imported`} live>
      <T>
        {left === 0
          ? say`Every line of it. Forecasts are being made.`
          : many(
              left,
              'line is left: correct it in a file of its own and import that.',
              'lines are left: correct them in a file of their own and import that.',
            )}
      </T>
      <View className="flex-row flex-wrap items-center gap-3 pt-2">
        {sent.mend ? (
          <Button label={say`Save the lines to correct`} onPress={() => saveAs(say`to correct - ${sent.name}`, sent.mend ?? '')} />
        ) : null}
        <TextLink href="/due?until=all" label={say`What is due`} />
        <TextLink href="/sites" label={say`Sites`} />
      </View>
    </Notice>
  )
}
