import type { BookFilter } from '@evenround/contract/book'
import type { VisitRowDto } from '@evenround/contract/site'
import { many, say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { useEffect, useState } from 'react'
import { Pressable, View } from 'react-native'
import { useBook, useDisinfections, useMe } from '../../data/queries'
import { JobLines } from '../../parts/disinfection/job-lines'
import { OUTCOME_WORDS } from '../../parts/visit/outcomes'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { dayOfInstant, instantText, longDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { BookFilterBar } from './book-filter'

/** What was done, newest first. */
export function Book() {
  const [filter, setFilter] = useState<BookFilter>({})
  // Typed letters are asked for when the typing has paused.
  const [wanted, setWanted] = useState<BookFilter>({})
  useEffect(() => {
    const timer = setTimeout(() => setWanted(filter), PAUSE_MS)
    return () => clearTimeout(timer)
  }, [filter])
  const book = useBook(wanted)
  const visits = book.data?.pages.flatMap((page) => page.visits) ?? []
  const desk = useDesk()
  const filtered = Object.keys(wanted).length > 0
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  return (
    <Screen title={say`Book`} over={say`What was done, by whom, and what was found`} wide>
      <View className={desk ? 'flex-row-reverse items-start gap-8' : 'gap-4'}>
        <View className={desk ? 'w-[400px] gap-6' : 'gap-4'}>
          {filtered && !desk ? null : <Disinfections />}
          <BookFilterBar filter={filter} onChange={setFilter} roomFor={desk} />
        </View>
        <View className={desk ? 'flex-1' : ''}>
          {book.data ? (
            visits.length === 0 ? (
              filtered ? (
                <Empty title={say`No such visit`} text={say`Nothing in the book is as the filters ask.`} />
              ) : (
                <Empty title={say`The book is empty`} text={say`Each finished visit is written here by itself.`} />
              )
            ) : (
              visits.map((row, index) => (
                <BookRow
                  key={row.visitId}
                  row={row}
                  zone={zone}
                  first={index === 0 || dayOfInstant(row.begunAt, zone) !== dayOfInstant(visits[index - 1]?.begunAt ?? '', zone)}
                />
              ))
            )
          ) : book.error ? (
            <Failed what={say`The book cannot be opened`} error={book.error} onRetry={() => void book.refetch()} />
          ) : (
            <Waiting rows={5} what={say`Opening the book`} />
          )}
          {book.hasNextPage ? (
            <Button label={book.isFetchingNextPage ? say`Loading …` : say`Earlier visits`} onPress={() => void book.fetchNextPage()} />
          ) : null}
        </View>
      </View>
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
        {say`Disinfections`}
      </T>
      <JobLines rows={all.rows.slice(0, LAST_JOBS)} today={all.today} named />
    </View>
  )
}
const LAST_JOBS = 6
const PAUSE_MS = 300
const photosText = (photos: number): string => (photos === 0 ? '' : ` · ${many(photos, 'photo', 'photos')}`)

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
              {`${row.fitted.length > 0 ? say`Fitted ${row.fitted.join(', ')}` : say`No part fitted`}${photosText(row.photos ?? 0)}`}
            </T>
          </View>
          <T kind="label" className={row.outcome === 'done' ? 'text-lichen-text' : 'text-copper-text'}>
            {row.outcome === null ? say`open` : OUTCOME_WORDS[row.outcome]}
          </T>
        </Pressable>
      </Link>
    </View>
  )
}
