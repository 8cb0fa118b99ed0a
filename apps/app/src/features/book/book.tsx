import type { VisitRowDto } from '@evenround/contract/site'
import { Link } from 'expo-router'
import { FlatList, Pressable, View } from 'react-native'
import { useBook, useDisinfections, useMe } from '../../data/queries'
import { JobLines } from '../../parts/disinfection/job-lines'
import { OUTCOME_WORDS } from '../../parts/visit/outcomes'
import { dayOfInstant, instantText, longDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

/** What was done, newest first. */
export function Book() {
  const book = useBook()
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  return (
    <Screen title="Book" over="What was done, by whom, and what was found">
      <Disinfections />
      {book.data ? (
        book.data.visits.length === 0 ? (
          <Empty title="The book is empty" text="Each finished visit is written here by itself." />
        ) : (
          <FlatList
            scrollEnabled={false}
            data={book.data.visits}
            keyExtractor={({ visitId }) => visitId}
            renderItem={({ item, index }) => (
              <BookRow
                row={item}
                zone={zone}
                first={index === 0 || dayOfInstant(item.begunAt, zone) !== dayOfInstant(book.data.visits[index - 1]?.begunAt ?? '', zone)}
              />
            )}
          />
        )
      ) : book.error ? (
        <Failed what="The book cannot be opened" error={book.error} onRetry={() => void book.refetch()} />
      ) : (
        <Waiting rows={5} what="Opening the book" />
      )}
    </Screen>
  )
}

/** The last disinfections, those that are over and those that go on. */
function Disinfections() {
  const all = useDisinfections().data
  if (!all || all.rows.length === 0) return null
  return (
    <View>
      <T kind="heading" level={2}>
        Disinfections
      </T>
      <JobLines rows={all.rows.slice(0, LAST_JOBS)} today={all.today} named />
    </View>
  )
}
const LAST_JOBS = 6

function BookRow({ row, zone, first }: { row: VisitRowDto; zone: string; first: boolean }) {
  const day = dayOfInstant(row.begunAt, zone)
  return (
    <View>
      {first ? (
        <T kind="heading" level={2} className="pt-4">
          {`${longDay(day)} ${day.slice(0, 4)}`}
        </T>
      ) : null}
      <Link href={`/book/${row.visitId}`} asChild>
        <Pressable className="min-h-[64px] w-full flex-row gap-3 border-t-2 border-line py-3">
          <T kind="strong" className="w-[52px]">
            {instantText(row.begunAt, zone).slice(-5)}
          </T>
          <View className="flex-1">
            <T kind="strong">{row.siteName}</T>
            <T kind="quiet">{`${row.systemName} · ${row.personName}`}</T>
            <T kind="quiet" className="text-ink">
              {row.fitted.length > 0 ? `Fitted ${row.fitted.join(', ')}` : 'No part fitted'}
            </T>
          </View>
          <T kind="label" className={row.outcome === 'done' ? 'text-lichen-text' : 'text-copper-text'}>
            {row.outcome === null ? 'open' : OUTCOME_WORDS[row.outcome]}
          </T>
        </Pressable>
      </Link>
    </View>
  )
}
