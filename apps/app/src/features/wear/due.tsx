import type { DueRow } from '@evenround/contract/due'
import { mediumName } from '@evenround/core/catalogue'
import { many, say } from '@evenround/core/words'
import { Link, useLocalSearchParams, useRouter } from 'expo-router'
import { useCallback, useMemo, useState } from 'react'
import { Pressable, TextInput, View } from 'react-native'
import { useLocal } from '../../data/local'
import { useDisinfections, useDue, useMe } from '../../data/queries'
import { useUnits } from '../../data/units'
import { JobLines } from '../../parts/disinfection/job-lines'
import { hundredths, isLate, stageName } from '../../parts/wear/words'
import { BackLink } from '../../ui/back-link'
import { COLOR } from '../../ui/colors'
import { useColumnChoice } from '../../ui/column-choice'
import { useDesk } from '../../ui/desk'
import { Icon } from '../../ui/icons'
import { useKeys } from '../../ui/keys'
import { LongList } from '../../ui/long-list'
import { Segments } from '../../ui/segments'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { DUE_COLUMNS, DueCells, type DueColumn, DueHead, HEAD_HEIGHT } from './due-table'
import { type DueFilters, dueText, filtersOf, type Horizon, queryOf, type Sort, windowText } from './due-view'

const PHONE_ROW = 84
const DESK_ROW = 56
const SORT_WORDS: Record<Sort, string> = { date: say`Date`, risk: say`Risk`, place: say`Place` }
const HORIZON_WORDS: Record<Horizon, string> = { now: say`Due now`, '4w': say`4 weeks`, '13w': say`13 weeks`, all: say`All` }
const ADVICE_WORDS = { shorten: say`contracts to shorten`, lengthen: say`contracts to lengthen` }
const EVERY_ROW: DueRow[] = []
const NONE_OFF: string[] = []

/** All that is due, by date, risk or place; what it shows stands in its address. */
export function Due() {
  const me = useMe()
  const router = useRouter()
  const desk = useDesk()
  const filters = filtersOf(useLocalSearchParams())
  const today = me.data?.today ?? ''
  const due = useDue(today ? queryOf(filters, today) : null)
  const [cursor, setCursor] = useState(0)
  const rows = useMemo(() => due.data?.pages.flatMap((page) => page.rows) ?? EVERY_ROW, [due.data])
  const first = due.data?.pages[0]
  const [columnsOff, setColumnsOff] = useLocal<string[]>('even-round.table.due', NONE_OFF)
  const isShown = ({ id }: DueColumn): boolean => !columnsOff.includes(id)
  const choice = useColumnChoice(DUE_COLUMNS, isShown, (id, on) =>
    setColumnsOff(on ? columnsOff.filter((off) => off !== id) : [...columnsOff, id]),
  )
  const columns = desk ? DUE_COLUMNS.filter(isShown) : null
  const set = (patch: Record<string, string | undefined>): void => {
    setCursor(0)
    router.setParams(patch)
  }
  const keys = useMemo(
    () => ({
      j: () => setCursor((at) => Math.min(rows.length - 1, at + 1)),
      k: () => setCursor((at) => Math.max(0, at - 1)),
      Enter: () => {
        const row = rows[cursor]
        if (row) router.push(`/stage/${row.stageId}`)
      },
    }),
    [rows, cursor, router],
  )
  useKeys(keys)
  const { hasNextPage, isFetchingNextPage, fetchNextPage } = due
  const more = useCallback(() => {
    if (hasNextPage && !isFetchingNextPage) void fetchNextPage()
  }, [hasNextPage, isFetchingNextPage, fetchNextPage])
  return (
    <View role="main" className="flex-1 bg-paper">
      <View className={`gap-3 px-4 pb-3 ${desk ? 'px-8 pt-6' : 'pt-2'}`}>
        <BackLink href="/round" label={say`Round`} />
        <View className={`flex-row gap-3 ${desk ? 'items-center' : 'items-baseline'}`}>
          <T kind="title" level={1}>
            {say`Due`}
          </T>
          <T kind="quiet">
            {first ? `${many(first.total ?? 0, 'part', 'parts')}${first.pending > 0 ? say` · ${first.pending} being worked out` : ''}` : ''}
          </T>
          <View className="flex-1" />
          {desk ? choice.button : null}
          {me.data?.rights.includes('export') ? <CsvLink filters={filters} today={today} /> : null}
        </View>
        {desk ? choice.ticks : null}
        <Filters filters={filters} onChange={set} desk={desk} />
      </View>
      {first ? (
        <LongList
          rows={rows}
          keyOf={({ stageId }) => stageId}
          likelyHeight={desk ? DESK_ROW : PHONE_ROW}
          cursor={desk ? cursor : undefined}
          under={columns ? HEAD_HEIGHT : 0}
          render={(row, index) => (
            <Row row={row} today={first.today} columns={columns} cursor={desk && index === cursor} byRisk={filters.sort === 'risk'} />
          )}
          onNearEnd={more}
          header={
            <>
              <DueJobs today={first.today} until={queryOf(filters, first.today).until} desk={desk} />
              {columns ? <DueHead columns={columns} sort={filters.sort} onSort={(sort) => set({ sort })} /> : null}
            </>
          }
          empty={
            <View className="px-4">
              <Empty
                title={say`Nothing is due here`}
                text={say`Look further ahead, or take a filter away. Parts come in by a visit, or by a list under Sites.`}
                act={{
                  label: say`Show all`,
                  onPress: () => set({ until: 'all', island: undefined, media: undefined, advice: undefined, text: undefined }),
                }}
              />
            </View>
          }
        />
      ) : (
        <View className="px-4">
          {due.error ? (
            <Failed what={say`The list cannot be shown`} error={due.error} onRetry={() => void due.refetch()} />
          ) : (
            <Waiting rows={6} what={say`Loading what is due`} />
          )}
        </View>
      )}
    </View>
  )
}

/** Disinfections with something to come: each day's window follows from the day before it; what was proved comes again. */
function DueJobs({ today, until, desk }: { today: string; until: string | undefined; desk: boolean }) {
  const all = useDisinfections().data
  const rows = (all?.rows ?? []).filter(
    ({ act, againOn, doseDay }) =>
      (act !== null && (act !== 'dose' || until === undefined || doseDay <= until)) ||
      (againOn !== null && (until === undefined || againOn <= until)),
  )
  if (rows.length === 0) return null
  return (
    <View className={`pb-3 ${desk ? 'px-8' : 'px-4'}`}>
      <T kind="label">{say`Disinfection`}</T>
      <JobLines rows={rows} today={today} named />
    </View>
  )
}

function CsvLink({ filters, today }: { filters: DueFilters; today: string }) {
  const href = `/api/due.csv?${new URLSearchParams(queryOf(filters, today)).toString()}`
  return (
    // A plain link: the browser saves what the server sends.
    <a href={href} download className="flex min-h-[48px] items-center">
      <T kind="label" className="underline">
        {say`CSV`}
      </T>
    </a>
  )
}

interface FiltersProps {
  filters: DueFilters
  desk: boolean
  onChange: (patch: Record<string, string | undefined>) => void
}

function Filters({ filters, onChange, desk }: FiltersProps) {
  const [typed, setTyped] = useState(filters.text)
  return (
    <View className={desk ? 'flex-row flex-wrap items-center gap-3' : 'gap-2'}>
      {desk ? null : <Segments label={say`Order`} value={filters.sort} words={SORT_WORDS} onChange={(sort) => onChange({ sort })} />}
      <Segments label={say`How far ahead`} value={filters.horizon} words={HORIZON_WORDS} onChange={(until) => onChange({ until })} />
      <View
        className={`flex-row items-center gap-2 rounded-card border-2 border-line bg-sheet px-3 focus-within:border-kelp ${desk ? 'min-w-[220px] flex-1' : ''}`}
      >
        <Icon name="search" color={COLOR.quiet} size={20} />
        <TextInput
          value={typed}
          onChangeText={(text) => {
            setTyped(text)
            onChange({ text: text || undefined })
          }}
          aria-label={say`Part of a site’s or part’s name`}
          placeholder={say`Site or part number`}
          maxLength={80}
          className="min-h-[44px] flex-1 font-text text-[16px] text-ink"
        />
      </View>
      {filters.island || filters.media || filters.advice ? (
        <View className="flex-row flex-wrap gap-2">
          {filters.island ? <Taken label={filters.island} onPress={() => onChange({ island: undefined })} /> : null}
          {filters.media ? <Taken label={mediumName(filters.media)} onPress={() => onChange({ media: undefined })} /> : null}
          {filters.advice ? <Taken label={ADVICE_WORDS[filters.advice]} onPress={() => onChange({ advice: undefined })} /> : null}
        </View>
      ) : null}
    </View>
  )
}

function Taken({ label, onPress }: { label: string; onPress: () => void }) {
  return (
    <Pressable
      role="button"
      aria-label={say`Show not only ${label}`}
      onPress={onPress}
      className="min-h-[48px] justify-center rounded-card border-2 border-kelp px-3"
    >
      <T kind="label" className="text-kelp">{`${label} ×`}</T>
    </Pressable>
  )
}

interface RowProps {
  row: DueRow
  today: string
  /** At a desk. */
  columns: readonly DueColumn[] | null
  cursor: boolean
  byRisk: boolean
}

function Row({ row, today, columns, cursor, byRisk }: RowProps) {
  const units = useUnits()
  const edge = cursor ? 'border-l-4 border-l-kelp' : 'border-l-4 border-l-transparent'
  const label = say`${row.siteName}, ${stageName(row)} ${row.partNumber}: due ${dueText(row.due, today)}, ${windowText(row, today, units)}`
  return (
    <Link href={`/stage/${row.stageId}`} aria-label={label} asChild>
      <Pressable
        style={{ minHeight: columns ? DESK_ROW : PHONE_ROW }}
        className={`w-full flex-row items-center gap-3 border-line py-1 ${edge} ${columns ? 'border-b-2 px-8' : 'border-t-2 px-4'}`}
      >
        {columns ? (
          <DueCells columns={columns} row={row} today={today} units={units} />
        ) : (
          <>
            <View className="w-[64px]">
              <T kind="strong" className={isLate(row.due) ? 'text-oxblood' : 'text-ink'} numberOfLines={2}>
                {byRisk ? `${hundredths(row.due.ended)} %` : dueText(row.due, today)}
              </T>
            </View>
            <View className="flex-1 gap-0.5">
              <T kind="strong">{row.siteName}</T>
              <T kind="quiet" className="text-ink">{`${stageName(row)} · ${row.partNumber} · ${row.village}`}</T>
              <T kind="small">{windowText(row, today, units)}</T>
            </View>
          </>
        )}
      </Pressable>
    </Link>
  )
}
