import type { CrossingDto } from '@evenround/contract/crossing'
import { formatPosition } from '@evenround/core/units'
import { say, sayFor } from '@evenround/core/words'
import { useState } from 'react'
import { Controller, useWatch } from 'react-hook-form'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { dropCrossing, saveCrossing, useCrossings } from '../../data/crossings'
import { useMay } from '../../data/rights'
import { FormChoice, FormEnd, FormField } from '../../parts/forms/form-fields'
import { readWhole } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { PositionField, positionOf, positionProblem } from '../../parts/site/position-field'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { plainDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { isWrong, seasonsOf, seasonsText, spansOf, spansText, tidesOf, tidesText, timesOf, timesText } from './timetable-text'

const KINDS = [
  { value: 'ferry', label: say`Ferry` },
  { value: 'causeway', label: say`Causeway` },
  { value: 'bridge', label: say`Bridge` },
] as const

interface Typed {
  kind: CrossingDto['kind']
  name: string
  fromArea: string
  from: string
  toArea: string
  to: string
  minutes: string
  board: string
  departures: string
  returns: string
  open: string
  seasons: string
  tides: string
}
const NEW: Typed = {
  kind: 'ferry',
  name: '',
  fromArea: '',
  from: '',
  toArea: '',
  to: '',
  minutes: '',
  board: '10',
  departures: '',
  returns: '',
  open: '',
  seasons: '',
  tides: '',
}
const typedOf = ({ kind, name, from, to, minutes, boardMin, departures, returns, open, seasons, tides }: CrossingDto): Typed => ({
  kind,
  name,
  fromArea: from.area,
  from: formatPosition(from),
  toArea: to.area,
  to: formatPosition(to),
  minutes: String(minutes),
  board: String(boardMin),
  departures: timesText(departures),
  returns: timesText(returns),
  open: spansText(open),
  seasons: seasonsText(seasons ?? []),
  tides: tidesText(tides ?? {}),
})

const wholeOf = (text: string, least: number): number | null => {
  const value = Number(text)
  return text.trim() !== '' && Number.isInteger(value) && value >= least ? value : null
}

/** What was typed as the crossing it means, or what is wrong with it by field. */
export function crossingOf(
  typed: Typed,
): { crossing: Omit<CrossingDto, 'id' | 'version'> } | { problems: Partial<Record<keyof Typed, string>> } {
  const [from, to] = [positionOf(typed.from), positionOf(typed.to)]
  const [minutes, boardMin] = [wholeOf(typed.minutes, 1), wholeOf(typed.board, 0)]
  const [departures, returns, open] = [timesOf(typed.departures), timesOf(typed.returns), spansOf(typed.open)]
  const ferry = typed.kind === 'ferry'
  const [seasons, tides] = [ferry ? seasonsOf(typed.seasons) : [], typed.kind === 'causeway' ? tidesOf(typed.tides) : {}]
  const problems: Partial<Record<keyof Typed, string>> = {}
  const want = (bad: boolean, field: keyof Typed, message: string): void => {
    if (bad) problems[field] = message
  }
  want(typed.name.trim() === '', 'name', say`Name is required`)
  want(from === null, 'from', positionProblem(typed.from) ?? say`Coordinates are required`)
  want(to === null, 'to', positionProblem(typed.to) ?? say`Coordinates are required`)
  want(typed.fromArea.trim() === typed.toArea.trim(), 'toArea', say`Another area than on this side`)
  want(minutes === null, 'minutes', say`Whole minutes, at least 1`)
  want(ferry && boardMin === null, 'board', say`Whole minutes`)
  want(ferry && !departures?.length, 'departures', say`Times such as 8:30, 9:40`)
  want(ferry && !returns?.length, 'returns', say`Times such as 9:10, 10:20`)
  want(typed.kind === 'causeway' && open === null, 'open', say`Spans such as 5:30–10:00, 12:00–15:00`)
  if (isWrong(seasons)) problems.seasons = say`Line ${seasons.wrongLine}: from day to day, out and back, such as 11-01–03-31: 10:00 / 12:00`
  if (isWrong(tides)) problems.tides = say`Line ${tides.wrongLine}: a day and its safe times, such as 2026-12-01 08:10–12:00`
  if (Object.keys(problems).length > 0 || !from || !to || minutes === null || isWrong(seasons) || isWrong(tides)) return { problems }
  return {
    crossing: {
      kind: typed.kind,
      name: typed.name.trim(),
      from: { area: typed.fromArea.trim(), ...from },
      to: { area: typed.toArea.trim(), ...to },
      minutes,
      boardMin: ferry ? (boardMin ?? 0) : 0,
      departures: ferry ? (departures ?? []) : [],
      returns: ferry ? (returns ?? []) : [],
      open: typed.kind === 'causeway' ? (open ?? []) : [],
      // Said also where there is none: what is left out stays as it was.
      ...(ferry ? { seasons } : {}),
      ...(typed.kind === 'causeway' ? { tides } : {}),
    },
  }
}

/** Ferries, causeways and bridges between areas that no road joins: the round waits for their times. */
export function Crossings() {
  const all = useCrossings()
  const may = useMay('plan-rounds')
  const [adding, setAdding] = useState(false)
  return (
    <Screen over={<BackLink href="/times" label={say`Times and days off`} />} title={say`Ferries, causeways, bridges`} wide>
      <T kind="quiet" className="max-w-[680px]">
        {say`An area is what sites have under “Area or island”; the mainland has no name here. Within an area drives go over land; to another one they go by what stands here.`}
      </T>
      {all.data ? (
        <>
          {all.data.crossings.length === 0 && !adding ? (
            <Empty title={say`None yet`} text={say`Everything is taken to lie on one land. Add a ferry, and the round catches it.`} />
          ) : null}
          {all.data.crossings.map((crossing) => (
            <One key={`${crossing.id}${crossing.version}`} crossing={crossing} may={may} />
          ))}
          {may && !adding ? (
            <View className="self-start">
              <Button label={say`Add a crossing`} kind="act" onPress={() => setAdding(true)} />
            </View>
          ) : null}
          {adding ? <CrossingForm id={uuidv7()} version={0} begin={NEW} onDone={() => setAdding(false)} /> : null}
        </>
      ) : all.error ? (
        <Failed what={say`The crossings cannot be shown`} error={all.error} onRetry={() => void all.refetch()} />
      ) : (
        <Waiting />
      )}
    </Screen>
  )
}

const areaName = (area: string): string => area || say`the mainland`

function One({ crossing, may }: { crossing: CrossingDto; may: boolean }) {
  const [open, setOpen] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const { id, name, kind, from, to, minutes, departures, returns, version } = crossing
  const drop = (): void => {
    dropCrossing(id).catch((error: unknown) => setProblem(error instanceof Error ? error.message : say`It could not be removed.`))
  }
  if (open) return <CrossingForm id={id} version={version} begin={typedOf(crossing)} onDone={() => setOpen(false)} onDrop={drop} />
  return (
    <View className="flex-row items-start gap-3 border-t-2 border-line py-3">
      <View className="flex-1 gap-0.5">
        <T kind="strong">{name}</T>
        <T>{say`${KINDS.find(({ value }) => value === kind)?.label ?? ''} between ${areaName(from.area)} and ${areaName(to.area)}, ${minutes} min`}</T>
        {kind === 'ferry' ? <T kind="quiet">{say`Out ${timesText(departures)} · back ${timesText(returns)}`}</T> : null}
        {crossing.open.length > 0 && !crossing.tides ? <T kind="quiet">{sayFor('hours')`Open ${typedOf(crossing).open}`}</T> : null}
        {crossing.seasons?.map((season) => (
          <T key={`${season.from}${season.to}`} kind="quiet">
            {season.departures.length === 0
              ? say`${dayOfYear(season.from)} to ${dayOfYear(season.to)}: does not sail`
              : say`${dayOfYear(season.from)} to ${dayOfYear(season.to)}: out ${timesText(season.departures)} · back ${timesText(season.returns)}`}
          </T>
        ))}
        {crossing.tides ? <SafeTimes tides={crossing.tides} /> : null}
        {problem ? (
          <T role="alert" className="text-oxblood">
            {problem}
          </T>
        ) : null}
      </View>
      {may ? <Button label={say`Change`} hint={say`Change ${name}`} onPress={() => setOpen(true)} /> : null}
    </View>
  )
}

/** Any year has these days. */
const dayOfYear = (day: string): string => plainDay(`2024-${day}`)

function SafeTimes({ tides }: { tides: NonNullable<CrossingDto['tides']> }) {
  const last = Object.keys(tides).sort().at(-1) ?? ''
  return (
    <T kind="quiet">
      {say`Safe times are known until ${`${plainDay(last)} ${last.slice(0, 4)}`}; a day without an entry counts as closed. A plan is no leave to cross: follow the signs on the spot.`}
    </T>
  )
}

interface FormProps {
  id: string
  version: number
  begin: Typed
  onDone: () => void
  onDrop?: () => void
}
const schema = readWhole<Typed, Omit<CrossingDto, 'id' | 'version'>>((typed) => {
  const found = crossingOf(typed)
  return 'crossing' in found ? { read: found.crossing } : found
})

function CrossingForm({ id, version, begin, onDone, onDrop }: FormProps) {
  const { control, form, submit, problem, busy } = useSavedForm({
    schema,
    values: begin,
    version,
    save: async (crossing, opened) => {
      await saveCrossing(id, { ...crossing, version: opened })
      onDone()
    },
  })
  const kind = useWatch({ control: form.control, name: 'kind' })
  const line = (name: Exclude<keyof Typed, 'kind' | 'from' | 'to'>, label: string, hint?: string) => (
    <FormField control={control} name={name} label={label} hint={hint} maxLength={400} className="min-w-[240px] flex-1" />
  )
  const list = (name: 'seasons' | 'tides', label: string, hint: string) => (
    <FormField control={control} name={name} label={label} hint={hint} multiline maxLength={40_000} />
  )
  const end = (name: 'from' | 'to', label: string) => (
    <Controller
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <PositionField label={label} value={field.value} onChange={field.onChange} error={fieldState.error?.message} />
      )}
    />
  )
  return (
    <View className="max-w-[820px] gap-4 rounded-card border-2 border-line bg-sheet p-4">
      <FormChoice control={control} name="kind" label={say`Kind of crossing`} options={KINDS} />
      {line('name', say`Name`)}
      <View className="flex-row flex-wrap gap-4">
        <View className="min-w-[240px] flex-1 gap-3">
          {line('fromArea', say`Area on this side`, say`Empty: the mainland`)}
          {end('from', say`Where this end is`)}
        </View>
        <View className="min-w-[240px] flex-1 gap-3">
          {line('toArea', say`Area on the other side`)}
          {end('to', say`Where the other end is`)}
        </View>
      </View>
      <View className="flex-row flex-wrap gap-3">
        {line('minutes', say`Minutes across`)}
        {kind === 'ferry' ? line('board', say`Aboard before it sails, min`) : null}
      </View>
      {kind === 'ferry' ? (
        <View className="flex-row flex-wrap gap-3">
          {line('departures', say`Leaves this side`, say`Every sailing: 8:30, 9:40`)}
          {line('returns', say`Leaves the other side`, say`Every sailing: 9:10, 10:20`)}
        </View>
      ) : null}
      {kind === 'causeway'
        ? line('open', sayFor('hours')`Open`, say`When it may be entered: 5:30–10:00, 12:00–15:00. Empty: always`)
        : null}
      {kind === 'ferry'
        ? list(
            'seasons',
            say`Other sailings by season`,
            say`A line for each: from day to day, out and back, such as 11-01–03-31: 10:00, 14:00 / 12:00, 16:00. Nothing before and after the stroke: it does not sail.`,
          )
        : null}
      {kind === 'causeway'
        ? list(
            'tides',
            say`Safe crossing times by day`,
            say`Copied from the published table, a line for each day: 2026-12-01 08:10–12:00, 20:30–23:50. Once there is one, a day without a line counts as closed.`,
          )
        : null}
      {onDrop ? <Button label={say`Remove this crossing`} onPress={onDrop} /> : null}
      <FormEnd problem={problem} busy={busy} act={say`Save this crossing`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
