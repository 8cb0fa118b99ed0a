import type { RoundPage, RoundVisitDto } from '@evenround/contract/rounds'
import { placeText } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { carryVisit, markVisit, type Spot, unmark } from '../../data/round'
import { Button } from '../../ui/button'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { daySpan, timeOfDay } from '../../ui/format'
import { minuteOf } from '../../ui/minute'
import { T } from '../../ui/text'
import { type CarryPrices, keyOf, signed, termsOf } from './price'
import { WaysOut } from './ways-out'
import { weekdayLong, weekdayWord } from './words'

interface VisitPanelProps {
  page: RoundPage
  visit: RoundVisitDto
  prices: CarryPrices
  mayPlan: boolean
  onDone: () => void
  /** Somebody decided something about it: it may stand on no day any more. */
  onMarked: (page: RoundPage) => void
  /** Runs an act and says what went wrong. */
  run: (act: () => Promise<unknown>) => Promise<boolean>
}

const ACTION = { change: 'change', wash: 'wash', refill: 'refill', clean: 'clean' } as const
const KIND = {
  due: say`due in its window`,
  stands: say`stands on the road already`,
  follow: say`goes on from an earlier visit`,
  job: say`a day of a disinfection: it moves with the job`,
  extra: say`somebody asked for it`,
  first: say`first visit: nobody knows what is fitted`,
} as const

/** What is done at a visit that has no tasks of its own. */
function withoutTasks(kind: RoundVisitDto['kind']): string {
  if (kind === 'first') return say`look at every stage and measure`
  return kind === 'extra' ? say`look and measure` : say`as the job says`
}

/** One visit: what is done there, why it stands where it does, and everything that can be decided about it. */
export function VisitPanel({ page, visit, prices, mayPlan, onDone, onMarked, run }: VisitPanelProps) {
  const { set } = page
  const { now } = prices
  const window = daySpan(set.days[visit.windowDays[0]] ?? set.today, set.days[visit.windowDays[1]] ?? set.today, set.today)
  return (
    <View testID="visit-panel" className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <View className="flex-row items-start gap-2">
        <View className="flex-1">
          <T kind="heading" level={2}>
            {visit.siteName}
          </T>
          <T kind="quiet">{say`${placeText(visit)} · ${Math.round(visit.serviceMin)} min · window ${window} · ${KIND[visit.kind]}`}</T>
        </View>
        <Button label={say`Close`} onPress={onDone} />
      </View>
      {visit.stops.map(({ systemId, systemName, tasks }) => (
        <T key={systemId}>
          <T kind="strong">{`${systemName}: `}</T>
          {tasks.length === 0
            ? withoutTasks(visit.kind)
            : tasks
                .map(
                  ({ action, position, pulledDays }) =>
                    `${ACTION[action]} ${position}${pulledDays > 0 ? say` (${pulledDays} days early)` : ''}`,
                )
                .join(', ')}
        </T>
      ))}
      <Why page={page} prices={prices} />
      {now === null && visit.kind !== 'job' ? (
        <WaysOut
          page={page}
          visit={visit}
          mayPlan={mayPlan}
          act={(work) =>
            void run(async () => {
              const next = await work()
              onDone()
              onMarked(next)
            })
          }
        />
      ) : null}
      {mayPlan && visit.kind !== 'job' ? (
        <>
          <MoveTo page={page} visit={visit} prices={prices} run={run} onDone={onDone} />
          <Decide page={page} visit={visit} now={now} run={run} onDone={onDone} onMarked={onMarked} />
        </>
      ) : null}
      <Link href={`/sites/${visit.siteId}`} asChild>
        <Pressable className="min-h-[48px] justify-center">
          <T kind="label" className="text-brine underline">
            {say`Open the site`}
          </T>
        </Pressable>
      </Link>
    </View>
  )
}

/** Why this day: the day before, the day after and the runner-up, with their price and what it is made of. */
function Why({ page: { set }, prices: { now, best, to } }: { page: RoundPage; prices: CarryPrices }) {
  if (!now) return <T>{say`Unscheduled.`}</T>
  const beside = [-1, 1].flatMap((step) => {
    const near = [...to.values()].filter(({ day }) => day === now.day + step).sort((a, b) => a.total - b.total)[0]
    return near ? [{ words: step < 0 ? say`the day before` : say`the day after`, price: near }] : []
  })
  const rows = [
    ...beside,
    ...(best && beside.every(({ price }) => keyOf(price) !== keyOf(best)) ? [{ words: say`the next best`, price: best }] : []),
  ]
  const clear = best !== null && best.total - now.total > 0.5
  return (
    <View testID="why" className="gap-1 border-l-4 border-brine pl-3">
      <T kind="strong">{say`Why ${weekdayLong(set.days[now.day] ?? '')}?`}</T>
      {rows.map(({ words, price }) => (
        <T key={words}>
          {`${words}, ${weekdayWord(set.days[price.day] ?? '')}: `}
          <T kind="strong">{signed(price.total - now.total)}</T>
          {` · ${
            termsOf(now, price)
              .map((term) => `${term.words} ${signed(term.minutes).replace(' min', '')}`)
              .join(', ') || say`no difference`
          }`}
        </T>
      ))}
      {rows.length === 0 ? <T>{say`It can stand on no other day of its window.`}</T> : null}
      {rows.length > 0 && !clear ? <T kind="quiet">{say`Another day would do as well: moving it costs nothing.`}</T> : null}
    </View>
  )
}

const SHOWN = 6
/** Every day it can be carried to, with its price: the menu's way, for thumbs and keyboards. */
function MoveTo({ page, visit, prices, run, onDone }: Omit<VisitPanelProps, 'mayPlan' | 'onMarked'>) {
  const [all, setAll] = useState(false)
  const { set } = page
  const own = prices.now ? keyOf(prices.now) : null
  const places = [...prices.to.values()].filter((one) => keyOf(one) !== own).sort((a, b) => a.total - b.total)
  const shown = (all ? places : places.slice(0, SHOWN)).sort((a, b) => a.day - b.day)
  const from: Spot | null = prices.now ? { technician: prices.now.technician, day: prices.now.day } : null
  if (places.length === 0) return null
  return (
    <View className="gap-1">
      <T kind="label">{say`Move to`}</T>
      <View className="flex-row flex-wrap gap-2">
        {shown.map((place) => {
          const person = set.technicians.find(({ id }) => id === place.technician)?.name.split(' ')[0]
          return (
            <Pressable
              key={keyOf(place)}
              role="button"
              testID={`carry-${keyOf(place)}`}
              onPress={() => void run(() => carryVisit(page, visit.id, from, place)).then((done) => done && onDone())}
              className="min-h-[48px] justify-center rounded-card border-2 border-line bg-paper px-3 py-1"
            >
              <T kind="label">{`${weekdayWord(set.days[place.day] ?? '')}${set.technicians.length > 1 ? ` · ${person}` : ''}`}</T>
              <T kind="small">{prices.now ? signed(place.total - prices.now.total) : signed(place.total)}</T>
            </Pressable>
          )
        })}
      </View>
      {places.length > SHOWN && !all ? <Button label={say`All ${places.length} days`} onPress={() => setAll(true)} /> : null}
    </View>
  )
}

/** Pin, forbid, promise, part not there, off its day. */
function Decide({ page, visit, now, run, onDone, onMarked }: Omit<VisitPanelProps, 'mayPlan' | 'prices'> & { now: CarryPrices['now'] }) {
  const [promising, setPromising] = useState(false)
  const [waiting, setWaiting] = useState(false)
  const marks = page.marks.filter(({ visitId }) => visitId === visit.id)
  const held = marks.find(({ kind }) => kind === 'pin' || kind === 'promise')
  const day = now ? page.set.days[now.day] : undefined
  const act = (work: () => Promise<RoundPage>) => () =>
    void run(async () => {
      const next = await work()
      onDone()
      onMarked(next)
    })
  return (
    <View className="gap-2">
      {marks.map(({ id, kind, day: on, window, byName, why }) => (
        <View key={id} className="flex-row items-center gap-2">
          <T className="flex-1">
            {`${MARK_WORDS[kind]} ${weekdayWord(on)}${window ? say`, ${timeOfDay(window[0])} to ${timeOfDay(window[1])}` : ''} · ${byName}${why ? ` · ${why}` : ''}`}
          </T>
          <Button label={kind === 'forbid' ? say`Allow it` : say`Remove`} onPress={act(() => unmark(id))} />
        </View>
      ))}
      <View className="flex-row flex-wrap gap-2">
        {day && !held ? (
          <Button label={say`Pin to this day`} onPress={act(() => markVisit({ visitId: visit.id, kind: 'pin', day }))} />
        ) : null}
        {day ? <Button label={say`Forbid this day`} onPress={act(() => markVisit({ visitId: visit.id, kind: 'forbid', day }))} /> : null}
        {day ? <Button label={say`Promise…`} onPress={() => setPromising(!promising)} /> : null}
        <Button label={say`Part not there…`} onPress={() => setWaiting(!waiting)} />
        {now ? (
          <Button
            label={say`Unschedule`}
            onPress={() =>
              void run(() => carryVisit(page, visit.id, { technician: now.technician, day: now.day }, null)).then(
                (done) => done && onDone(),
              )
            }
          />
        ) : null}
      </View>
      {promising && day ? (
        <PromiseForm day={day} onKeep={(window) => act(() => markVisit({ visitId: visit.id, kind: 'promise', day, window }))()} />
      ) : null}
      {waiting ? (
        <NotBefore
          onKeep={(on) => act(() => markVisit({ visitId: visit.id, kind: 'not-before', day: on, why: say`part not there` }))()}
          today={page.set.today}
        />
      ) : null}
    </View>
  )
}

const MARK_WORDS = { pin: say`Pinned to`, forbid: say`Not on`, promise: say`Promised for`, 'not-before': say`Not before` } as const

/** The customer's window on the day. */
function PromiseForm({ day, onKeep }: { day: string; onKeep: (window: [number, number]) => void }) {
  const [from, setFrom] = useState('09:00')
  const [to, setTo] = useState('11:00')
  const [a, b] = [minuteOf(from), minuteOf(to)]
  const wrong = a === null || b === null ? say`A time like 9:30` : a >= b ? say`It must end after it begins` : undefined
  return (
    <View className="gap-2">
      <T kind="label">{say`Promised for ${weekdayWord(day)}, beginning between`}</T>
      <View className="flex-row gap-2">
        <Field label={say`from`} value={from} onChangeText={setFrom} className="w-28" inputMode="numeric" />
        <Field label={say`to`} value={to} onChangeText={setTo} className="w-28" inputMode="numeric" error={wrong} />
      </View>
      <Button
        label={say`Keep the promise`}
        kind="act"
        disabled={wrong !== undefined}
        onPress={() => a !== null && b !== null && onKeep([a, b])}
      />
    </View>
  )
}

/** The day from which the part is there. */
function NotBefore({ today, onKeep }: { today: string; onKeep: (day: string) => void }) {
  const [day, setDay] = useState('')
  const good = /^\d{4}-\d{2}-\d{2}$/.test(day) && day > today
  return (
    <View className="gap-2">
      <DayField label={say`The part is there from`} value={day} onChange={setDay} className="w-56" />
      <Button label={say`Not before that day`} kind="act" disabled={!good} onPress={() => onKeep(day)} />
    </View>
  )
}
