import type { RoundPage } from '@evenround/contract/rounds'
import { many, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { publishRound, useDraftChanges } from '../../data/round'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'
import { weekdayWord } from './words'

const MOST = 10

/** What publishing would tell everybody, before it is done: a publication is numbered and never changed. */
export function PublishCard({
  page,
  onDone,
  run,
}: {
  page: RoundPage
  onDone: (number: number | null) => void
  run: (act: () => Promise<unknown>) => Promise<boolean>
}) {
  const changes = useDraftChanges(page.draft.version, true)
  const [busy, setBusy] = useState(false)
  const next = (page.publication?.number ?? 0) + 1
  // Against nothing everything is new: only a second publication has changes to tell.
  const list = page.publication === null ? [] : (changes.data?.changes ?? [])
  const publish = async (): Promise<void> => {
    setBusy(true)
    let number: number | null = null
    const done = await run(async () => {
      number = await publishRound(page.draft.version)
    })
    setBusy(false)
    if (done) onDone(number)
  }
  return (
    <View testID="publish-card" className="gap-2 rounded-card border-2 border-kelp bg-sheet px-4 py-3">
      <T kind="heading" level={2}>{say`Publish as number ${next}?`}</T>
      <T>
        {page.publication === null
          ? say`It is the first: everybody’s phone and calendar shows it from now on.`
          : changes.data
            ? say`${many(list.length, 'visit is', 'visits are')} on another day than in number ${page.publication.number}.`
            : say`Looking up what changed…`}
      </T>
      {list.slice(0, MOST).map(({ visitId, siteName, was, now }) => (
        <T key={visitId} kind="quiet">
          {`${siteName}: ${was ? `${weekdayWord(was.day)}, ${was.technician.split(' ')[0]}` : say`no day`} → ${now ? `${weekdayWord(now.day)}, ${now.technician.split(' ')[0]}` : say`no day`}`}
        </T>
      ))}
      {list.length > MOST ? <T kind="quiet">{say`and ${list.length - MOST} more`}</T> : null}
      <T kind="small">{say`Today stays as it is, and what somebody has begun is not moved.`}</T>
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Publish`} kind="act" grow disabled={busy} onPress={() => void publish()} />
        <Button label={say`Not yet`} grow onPress={() => onDone(null)} />
      </View>
    </View>
  )
}
