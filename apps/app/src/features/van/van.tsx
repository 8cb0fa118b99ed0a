import type { VanList } from '@evenround/contract/rounds'
import { addDays } from '@evenround/core/units'
import { many, say } from '@evenround/core/words'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { useMe } from '../../data/queries'
import { tickVan, useVan } from '../../data/times'
import { BackLink } from '../../ui/back-link'
import { Columns } from '../../ui/columns'
import { plainDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Segments } from '../../ui/segments'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

type Item = VanList['items'][number]
const KINDS = { part: say`Parts`, chlorine: say`Chlorine, strips, bottles`, consumable: say`Used up`, tool: say`Tools` } as const
/** What the shelf has to give, and what is in the van anyway or is poured from a bottle. */
const PARTS = ['part'] as const
const OTHERS = ['chlorine', 'consumable', 'tool'] as const
const WHEN = { today: say`Today`, tomorrow: say`Tomorrow`, week: say`Seven days` } as const

/** What must be in the van: ticked when it is in, named with its order-by date when it is short. */
export function Van() {
  const me = useMe().data
  const [when, setWhen] = useState<keyof typeof WHEN>('today')
  const today = me?.today ?? null
  const from = today === null ? null : when === 'tomorrow' ? addDays(today, 1) : today
  const van = useVan(from, when === 'week' ? 7 : 1)
  const items = van.data?.items ?? []
  const loaded = items.filter(({ state }) => state === 'loaded').length
  return (
    <Screen over={<BackLink href="/today" label={say`Today`} />} title={say`Load ${me?.person.van ?? say`the van`}`} wide>
      <Segments label={say`For`} value={when} words={WHEN} onChange={setWhen} />
      {van.data ? (
        items.length === 0 ? (
          <Empty title={say`Nothing to load`} text={say`No stops are planned for you in this time.`} />
        ) : (
          <>
            <T kind="quiet">{say`${loaded} of ${items.length} in the van. Tap once when it is in, again when it is short.`}</T>
            <Columns>
              {[PARTS, OTHERS].map((kinds) => (
                <View key={kinds[0]} className="gap-4">
                  {kinds.map((kind) => (
                    <Kind
                      key={kind}
                      kind={kind}
                      items={items.filter((item) => item.kind === kind)}
                      day={van.data.from}
                      today={today ?? ''}
                    />
                  ))}
                </View>
              ))}
            </Columns>
          </>
        )
      ) : van.error ? (
        <Failed what={say`The list cannot be shown`} error={van.error} onRetry={() => void van.refetch()} />
      ) : (
        <Waiting what={say`Loading the list`} />
      )}
    </Screen>
  )
}

function Kind({ kind, items, day, today }: { kind: Item['kind']; items: readonly Item[]; day: string; today: string }) {
  if (items.length === 0) return null
  return (
    <View>
      <T kind="heading" level={2}>
        {KINDS[kind]}
      </T>
      {items.map((item) => (
        <Row key={item.key} item={item} day={day} today={today} />
      ))}
    </View>
  )
}

const AMOUNTS: Record<string, (count: number) => string> = {
  piece: (count) => many(count, 'piece', 'pieces'),
  set: (count) => many(count, 'set', 'sets'),
  pair: (count) => many(count, 'pair', 'pairs'),
  strip: (count) => many(count, 'strip', 'strips'),
  tube: (count) => many(count, 'tube', 'tubes'),
  jar: (count) => many(count, 'jar', 'jars'),
  sachet: (count) => many(count, 'sachet', 'sachets'),
}
/** "2 pairs"; a unit of measure stands as it is. */
const amountWords = (count: number, unit: string): string => AMOUNTS[unit]?.(count) ?? `${count} ${unit}`

const NEXT = { none: 'loaded', loaded: 'short', short: null } as const

function Row({ item, day, today }: { item: Item; day: string; today: string }) {
  const { key, name, kind, count, unit, forSites, state, orderBy, firstDay } = item
  const late = orderBy !== null && orderBy < today
  return (
    <Pressable
      role="checkbox"
      aria-checked={state === 'loaded' ? true : state === 'short' ? 'mixed' : false}
      aria-label={`${name}, ${amountWords(count, unit)}${state === 'short' ? say`, short` : ''}`}
      testID={`van-${key}`}
      onPress={() => void tickVan(day, key, NEXT[state ?? 'none'])}
      className="min-h-[56px] flex-row items-center gap-3 border-b-2 border-line py-2"
    >
      <View
        className={`h-8 w-8 items-center justify-center rounded-[4px] border-2 ${state === 'loaded' ? 'border-kelp bg-kelp' : state === 'short' ? 'border-copper' : 'border-quiet'}`}
      >
        <T kind="strong" className={state === 'loaded' ? 'text-on-kelp' : 'text-copper-text'}>
          {state === 'loaded' ? '✓' : state === 'short' ? '!' : ' '}
        </T>
      </View>
      <View className="min-w-0 flex-1">
        <T kind="strong">{kind === 'part' ? `${key} · ${name}` : name}</T>
        <T kind="small" numberOfLines={2}>
          {forSites.length > 3 ? say`${forSites.slice(0, 3).join(', ')} and ${forSites.length - 3} more` : forSites.join(', ')}
        </T>
        {state === 'short' && orderBy ? (
          <T kind="label" className="text-copper-text">
            {late
              ? say`Short: needed ${plainDay(firstDay)}, and an order would have had to go by ${plainDay(orderBy)}. Move the stop or fetch it.`
              : say`Short: order by ${plainDay(orderBy)}, needed ${plainDay(firstDay)}.`}
          </T>
        ) : null}
      </View>
      <T kind="strong">{unit === 'piece' || unit === 'set' ? `${count} ×` : amountWords(count, unit)}</T>
    </Pressable>
  )
}
