import type { SiteRowDto } from '@evenround/contract/site'
import { placeText } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { Pressable, TextInput, View } from 'react-native'
import { useMe, useSites } from '../../data/queries'
import { holdWords } from '../../parts/visit/hold-words'
import { COLOR } from '../../ui/colors'
import { FindLink } from '../../ui/find-link'
import { shortDay } from '../../ui/format'
import { Icon } from '../../ui/icons'
import { useKeys } from '../../ui/keys'
import { LongList } from '../../ui/long-list'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { searchSites } from './search'

/** All sites with their search; at a desk the chosen one is marked. */
export function SitesList({ chosen, aside = false }: { chosen: string | null; aside?: boolean }) {
  const sites = useSites()
  const me = useMe()
  const router = useRouter()
  const [typed, setTyped] = useState('')
  const [cursor, setCursor] = useState(0)
  const found = useMemo(() => searchSites(sites.data?.sites ?? [], typed), [sites.data, typed])
  const keys = useMemo(
    () => ({
      j: () => setCursor((index) => Math.min(found.length - 1, index + 1)),
      k: () => setCursor((index) => Math.max(0, index - 1)),
      Enter: () => {
        const row = found[cursor]
        if (row) router.push(`/sites/${row.id}`)
      },
    }),
    [found, cursor, router],
  )
  useKeys(keys)
  const today = me.data?.today ?? ''
  return (
    <View className="flex-1 bg-paper" role={aside ? undefined : 'main'}>
      <View className="gap-3 px-4 pb-3 pt-4">
        <View className="flex-row flex-wrap items-baseline justify-between gap-x-3 gap-y-1">
          <T kind="title" level={1}>
            {say`Sites`}
          </T>
          {aside ? null : <FindLink />}
          {me.data?.rights.includes('edit-sites') ? <TextLink href="/intake" label={say`Import a list`} /> : null}
          {me.data?.rights.includes('add-sites') ? <TextLink href="/sites/new" label={say`New site`} /> : null}
        </View>
        <View className="flex-row items-center gap-2 rounded-card border-2 border-line bg-sheet px-3 focus-within:border-kelp">
          <Icon name="search" color={COLOR.quiet} size={20} />
          <TextInput
            value={typed}
            onChangeText={(text) => {
              setTyped(text)
              setCursor(0)
            }}
            onSubmitEditing={() => keys.Enter()}
            aria-label={say`Search sites by name or place`}
            placeholder={say`Name or place`}
            className="min-h-[48px] flex-1 font-text text-[17px] text-ink"
          />
          {typed ? <T kind="small">{say`${found.length} of ${sites.data?.sites.length ?? 0}`}</T> : null}
        </View>
      </View>
      {sites.data ? (
        <LongList
          rows={found}
          keyOf={({ id }) => id}
          likelyHeight={ROW_HEIGHT}
          cursor={aside ? cursor : undefined}
          render={(row, index) => (
            <SiteRow
              row={row}
              today={today}
              on={row.id === chosen}
              cursor={aside && index === cursor}
              onOpen={() => router.push(`/sites/${row.id}`)}
            />
          )}
          footer={
            typed === '' ? (
              <View className="items-start px-4 py-3">
                <TextLink href="/sites/left" label={say`Customers who left`} />
              </View>
            ) : null
          }
          empty={
            <View className="px-4">
              {sites.data.sites.length === 0 ? (
                <Empty
                  title={say`No sites yet`}
                  text={say`A site is where your customers’ systems hang. Import the list you keep them in: the owner or a planner can.`}
                />
              ) : (
                <Empty
                  title={say`Nothing by that name`}
                  text={say`Names, villages and islands are searched, by the beginning of each word.`}
                />
              )}
            </View>
          }
        />
      ) : (
        <View className="px-4">
          {sites.error ? (
            <Failed what={say`Sites cannot be shown`} error={sites.error} onRetry={() => void sites.refetch()} />
          ) : (
            <Waiting rows={6} what={say`Loading sites`} />
          )}
        </View>
      )}
    </View>
  )
}
const ROW_HEIGHT = 66

function SiteRow({ row, today, on, cursor, onOpen }: { row: SiteRowDto; today: string; on: boolean; cursor: boolean; onOpen: () => void }) {
  return (
    <Pressable
      role="link"
      aria-current={on ? 'page' : undefined}
      onPress={onOpen}
      className={`min-h-[64px] flex-row items-center gap-3 border-t-2 border-line px-4 py-2 ${on ? 'border-l-4 border-l-kelp bg-sheet' : cursor ? 'border-l-4 border-l-line' : 'border-l-4 border-l-transparent'}`}
    >
      <View className="flex-1">
        <T kind="strong" numberOfLines={2}>
          {row.name}
        </T>
        <T kind="quiet">{placeText(row)}</T>
        {row.hold ? <T kind="label" className="text-oxblood">{say`Hold: ${holdWords(row.hold)}`}</T> : null}
      </View>
      <T kind="small" className={`text-right ${row.spent + row.overdue > 0 ? 'text-oxblood' : ''}`}>
        {row.nextDue
          ? row.spent + row.overdue > 0
            ? [row.spent > 0 ? say`${row.spent} spent` : '', row.overdue > 0 ? say`${row.overdue} overdue` : ''].filter(Boolean).join('\n')
            : say`next by\n${shortDay(row.nextDue, today)}`
          : row.systems === 0
            ? say`no system
yet`
            : say`nothing
rated`}
      </T>
    </Pressable>
  )
}
