import type { StopDto, TodayDto } from '@evenround/contract/site'
import { caution, many, say } from '@evenround/core/words'
import { Link, useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { type LayoutChangeEvent, Pressable, useWindowDimensions, View } from 'react-native'
import { isOffline, useDay } from '../../data/day'
import { useMe, useSites } from '../../data/queries'
import { useMay } from '../../data/rights'
import { Button } from '../../ui/button'
import { DayLine } from '../../ui/day-line'
import { useDesk } from '../../ui/desk'
import { FindLink } from '../../ui/find-link'
import { longDay, timeOfDay } from '../../ui/format'
import { Initials } from '../../ui/initials'
import { useKeys } from '../../ui/keys'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { useSecond } from '../../ui/second'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { DemoBeside } from './demo-beside'
import { Late } from './late-notice'
import { News } from './news'
import { NextStop } from './next-stop'
import { Office } from './office'
import { StopRow } from './stop-row'
import { acidWithChlorine, dayLineStops, daySums, partsForDay, stopStates } from './view'

/** The day: its line, the van, the next stop large, the others after it. */
export function Today() {
  const me = useMe()
  const today = useDay()
  const desk = useDesk()
  const person = me.data?.person
  const over = person ? `${person.name.split(' ')[0]}${person.van ? say` · van ${person.van}` : ''}` : ''
  const title = today.data ? longDay(today.data.day) : me.data ? longDay(me.data.today) : say`Today`
  return (
    <Screen
      over={over}
      title={title}
      aside={
        desk || !person ? null : (
          <View className="flex-row items-center">
            <FindLink />
            <Initials name={person.name} />
          </View>
        )
      }
      wide
    >
      {today.data ? (
        <Day today={today.data} desk={desk} />
      ) : today.error ? (
        <Failed what={say`Today’s stops cannot be shown`} error={today.error} onRetry={() => void today.refetch()} />
      ) : (
        <Waiting rows={4} what={say`Loading today’s stops`} />
      )}
      {today.data && today.error && !isOffline(today.error) ? <Failed what={say`This may be out of date`} error={today.error} /> : null}
      {today.data && isOffline(today.error) ? <OnDevice missing={today.missing} /> : null}
    </Screen>
  )
}

/** Without a network: what is here, and what is not, by name. */
function OnDevice({ missing }: { missing: readonly string[] }) {
  return (
    <Notice tone={missing.length > 0 ? 'look' : 'good'} title={say`No connection`} live>
      <T>
        {missing.length === 0
          ? say`Today and the next seven days are on this device. What you do is kept and sent later.`
          : say`Not on this device yet: ${missing.join(', ')}. The other stops of the next seven days are; what you do is kept and sent later.`}
      </T>
    </Notice>
  )
}

const PAGE_MARGINS = 32
const WIDEST_LINE = 1056

/** A firm that has just begun: what to do first. */
function FirstSteps() {
  const router = useRouter()
  const mayAdd = useMay('add-sites')
  const mayImport = useMay('edit-sites')
  const mayManage = useMay('manage-people')
  return (
    <View className="gap-3 rounded-card border-2 border-dashed border-line px-4 py-6">
      <T kind="heading" level={2}>
        {say`Your first customers`}
      </T>
      <T>{say`Add the site you stand at, or import the list you have. What is due, and when to be where, follows from it.`}</T>
      <View className="flex-row flex-wrap gap-3">
        {mayAdd ? <Button label={say`Add your first site`} kind="act" onPress={() => router.push('/sites/new')} /> : null}
        {mayImport ? <Button label={say`Import a list`} onPress={() => router.push('/intake')} /> : null}
      </View>
      {mayManage ? <DemoBeside /> : null}
    </View>
  )
}

function Day({ today, desk }: { today: TodayDto; desk: boolean }) {
  const router = useRouter()
  // Near enough for the first drawing; the layout says it exactly a moment later.
  const window = useWindowDimensions()
  const [width, setWidth] = useState(Math.min(window.width - PAGE_MARGINS, WIDEST_LINE))
  const whole = useSecond()
  const [chosenId, setChosenId] = useState<string | null>(null)
  const states = stopStates(today.stops)
  const next = today.stops.find(({ id }) => states.get(id) === 'next')
  const large = desk ? (today.stops.find(({ id }) => id === chosenId) ?? next ?? today.stops[0]) : next
  const rest = desk ? today.stops : today.stops.filter((stop) => stop !== large)
  const keys = useMemo(() => {
    const move = (by: number) => () => {
      const index = today.stops.findIndex(({ id }) => id === large?.id)
      setChosenId(today.stops[Math.min(today.stops.length - 1, Math.max(0, index + by))]?.id ?? null)
    }
    const open = (path: '' | '/measure') => () => {
      if (large) router.push(`/stop/${large.id}${path}`)
    }
    return { j: move(1), k: move(-1), Enter: open(''), n: open('/measure') }
  }, [today.stops, large, router])
  useKeys(keys)
  const sites = useSites(today.stops.length === 0).data?.sites
  const noSites = sites !== undefined && sites.length === 0
  const mayPlan = useMay('plan-rounds')
  if (today.stops.length === 0) {
    return (
      <View className="gap-4">
        {noSites ? (
          <FirstSteps />
        ) : mayPlan ? (
          <Office />
        ) : (
          <Empty
            title={say`No stops today`}
            text={say`Nothing is planned for you today. The round shows the coming days.`}
            act={{ label: say`See the round`, onPress: () => router.push('/round') }}
          />
        )}
        {noSites || mayPlan ? null : <LateParts today={today} />}
        {noSites ? null : <NewSiteLink />}
      </View>
    )
  }
  const sums = daySums(today)
  return (
    <View className="gap-4">
      <View onLayout={(event: LayoutChangeEvent) => setWidth(event.nativeEvent.layout.width)}>
        {whole ? (
          <DayLine
            {...today}
            stops={dayLineStops(today)}
            width={width}
            label={say`The day from ${timeOfDay(today.fromMin)}: ${today.stops.map(({ site, arriveMin }) => `${timeOfDay(arriveMin)} ${site.name}`).join(', ')}`}
          />
        ) : (
          <View className="h-[66px]" />
        )}
        <T>
          <T kind="strong">{sums.stops}</T>
          {` · ${sums.driving} · ${sums.work}${sums.home ? ` · ${sums.home}` : ''}`}
          {sums.slack ? <T kind="strong" className="text-lichen-text">{` · ${sums.slack}`}</T> : null}
          {sums.over ? <T kind="strong" className="text-copper-text">{` · ${sums.over}`}</T> : null}
        </T>
      </View>
      {whole ? <News today={today} /> : null}
      {whole ? <Late today={today} /> : null}
      {acidWithChlorine(today.stops).map((site) => (
        <Notice key={site} tone="danger" title={say`Acid and chlorine in one van`}>
          <T>{caution`A sleeve is descaled at ${site}, and chlorine goes in elsewhere today. Together they make a toxic gas: leave one of them for another day or van.`}</T>
        </Notice>
      ))}
      <View className={desk ? 'flex-row items-start gap-8' : 'gap-4'}>
        {desk ? null : <LateParts today={today} />}
        {desk ? null : <LoadVan stops={today.stops} />}
        {desk ? null : large ? <NextStop stop={large} today={today.day} state="next" /> : <AllDone />}
        <View className={desk ? 'flex-1' : ''} role="list" aria-label={say`Stops of the day`}>
          {(whole ? rest : []).map((stop) => (
            <StopRow
              key={stop.id}
              stop={stop}
              today={today.day}
              state={states.get(stop.id) ?? 'later'}
              chosen={desk && stop === large}
              onChoose={desk ? () => setChosenId(stop.id) : undefined}
            />
          ))}
        </View>
        {desk ? (
          <View className="w-[440px] gap-4">
            {large ? <NextStop stop={large} today={today.day} state={states.get(large.id) ?? 'later'} /> : null}
            <LateParts today={today} />
            <LoadVan stops={today.stops} />
          </View>
        ) : null}
      </View>
      {mayPlan ? <TextLink href="/office" label={say`The office’s day`} /> : null}
      <NewSiteLink />
    </View>
  )
}

/** Somebody nobody knew yet: their site, made at the door. */
function NewSiteLink() {
  return useMay('add-sites') ? <TextLink href="/sites/new" label={say`New site`} /> : null
}

function AllDone() {
  return <Empty title={say`All stops are done`} text={say`What was done stands in the book.`} />
}

/** What of the whole firm is over or past its day, with the way to the list. */
function LateParts({ today }: { today: TodayDto }) {
  const { spent, overdue } = today.late
  if (spent + overdue === 0) return null
  const said = [spent > 0 ? say`${spent} spent` : '', overdue > 0 ? say`${overdue} overdue` : ''].filter(Boolean).join(', ')
  return (
    <Link href="/due?until=now" asChild>
      <Pressable className="min-h-[56px] flex-row items-center gap-3 border-l-8 border-oxblood bg-sheet px-4 py-3">
        <View className="flex-1">
          <T kind="strong">{say`In the firm: ${said}`}</T>
          <T kind="quiet">{say`Parts to change now, the longest waiting first`}</T>
        </View>
        <T kind="strong" aria-hidden>
          ›
        </T>
      </Pressable>
    </Link>
  )
}

function LoadVan({ stops }: { stops: readonly StopDto[] }) {
  const parts = partsForDay(stops)
  if (parts.length === 0) return null
  const total = parts.reduce((sum, { count }) => sum + count, 0)
  return (
    <Link href="/van" asChild>
      <Pressable className="min-h-[56px] flex-row items-center gap-3 border-l-8 border-copper bg-sheet px-4 py-3">
        <View className="flex-1">
          <T kind="strong">{say`Load the van`}</T>
          <T kind="quiet">{say`${many(total, 'part', 'parts')} of ${many(parts.length, 'kind', 'kinds')} for the rest of the day`}</T>
        </View>
        <T kind="strong" aria-hidden>
          ›
        </T>
      </Pressable>
    </Link>
  )
}
