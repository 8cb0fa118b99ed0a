import type { LifeDto, LifeKind } from '@evenround/contract/book'
import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { Link } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { api, ask } from '../../data/api'
import { useMe } from '../../data/queries'
import { BackLink } from '../../ui/back-link'
import { Choice } from '../../ui/choice'
import { dayOfInstant, instantText, longDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

type Shown = LifeKind | 'all'
const SHOWN: readonly { value: Shown; label: string }[] = [
  { value: 'all', label: say`Everything` },
  { value: 'visit', label: say`Visits` },
  { value: 'reading', label: say`Readings` },
  { value: 'part', label: say`Parts` },
  { value: 'hold', label: say`Holds` },
  { value: 'disinfection', label: say`Disinfection` },
  { value: 'fault', label: say`Faults` },
]
const DOT: Record<LifeKind, string> = {
  visit: 'bg-kelp',
  reading: 'bg-brine',
  part: 'bg-lichen',
  hold: 'bg-oxblood',
  disinfection: 'bg-copper',
  fault: 'bg-copper',
  other: 'bg-line',
}

/** A site's whole past on one line of time, the newest first. */
export function SiteLife({ id }: { id: string }) {
  const life = useQuery({ queryKey: ['life', id], queryFn: () => ask(api.sites[':id'].life.$get({ param: { id } })), staleTime: 0 })
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const [shown, setShown] = useState<Shown>('all')
  return (
    <Screen over={<BackLink href={`/sites/${id}`} label={life.data?.siteName ?? say`The site`} />} title={say`What happened here`} wide>
      <Choice label={say`Show`} value={shown} options={SHOWN} onChange={setShown} />
      {life.data ? (
        <Lines life={life.data} shown={shown} zone={zone} />
      ) : life.error ? (
        <Failed what={say`The past cannot be shown`} error={life.error} onRetry={() => void life.refetch()} />
      ) : (
        <Waiting rows={6} />
      )}
    </Screen>
  )
}

function Lines({ life, shown, zone }: { life: LifeDto; shown: Shown; zone: string }) {
  const lines = life.lines.filter(({ kind }) => shown === 'all' || kind === shown)
  if (lines.length === 0) return <Empty title={say`Nothing of this kind yet`} text={say`What is recorded at this site stands here.`} />
  return (
    <View role="list" aria-label={say`What happened here`}>
      {lines.map((line, index) => {
        const day = dayOfInstant(line.at, zone)
        const before = lines[index - 1]
        const first = before === undefined || dayOfInstant(before.at, zone) !== day
        return (
          <View key={line.id} role="listitem">
            {first ? (
              <T kind="heading" level={2} className="pb-1 pt-4">
                {`${longDay(day)} ${day.slice(0, 4)}`}
              </T>
            ) : null}
            <View className="flex-row gap-3 border-l-2 border-line pb-2 pl-3">
              <View className={`-ml-[19px] mt-2 h-[10px] w-[10px] rounded-full ${DOT[line.kind]}`} />
              <T kind="quiet" className="w-[48px]">
                {instantText(line.at, zone).slice(-5)}
              </T>
              {line.kind === 'visit' ? (
                <Link href={`/book/${line.visitId}`} asChild>
                  <Pressable className="min-h-[32px] flex-1">
                    <T kind="strong" className={`underline ${line.over ? 'line-through' : ''}`}>
                      {line.text}
                    </T>
                  </Pressable>
                </Link>
              ) : (
                <T className={`flex-1 ${line.over ? 'text-quiet line-through' : ''}`}>{line.text}</T>
              )}
            </View>
          </View>
        )
      })}
      {life.more ? <T kind="quiet">{say`Only the latest are shown; the firm’s data has all of them.`}</T> : null}
    </View>
  )
}
