import type { AlarmDto, OfficeDto, RoadDayDto, ScoreDto } from '@evenround/contract/office'
import { many, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { Link, useRouter } from 'expo-router'
import { type ReactNode, useState } from 'react'
import { type LayoutChangeEvent, Pressable, View } from 'react-native'
import { api, ask } from '../../data/api'
import { useNow } from '../../data/now'
import { useMe } from '../../data/queries'
import { holdWords } from '../../parts/visit/hold-words'
import { Told } from '../../parts/visit/told'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { DayLine } from '../../ui/day-line'
import { duration, instantText, longDay, minuteOfInstant, percent, timeOfDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { dialled } from '../../ui/telephone'
import { T } from '../../ui/text'
import { roadLine, standingOf } from './road'

const MINUTE_MS = 60_000

/** The office's own screen, for whoever also has stops of their own. */
export function OfficeScreen() {
  const me = useMe()
  return (
    <Screen over={<BackLink href="/today" label={say`Today`} />} title={me.data ? longDay(me.data.today) : say`Office`} wide>
      <Office />
    </Screen>
  )
}

/** What needs action today, the most pressing first, and who is where. */
export function Office() {
  const office = useQuery({ queryKey: ['office'], queryFn: () => ask(api.office.$get()), staleTime: 0, refetchInterval: MINUTE_MS })
  const now = useNow(MINUTE_MS)
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  if (!office.data)
    return office.error ? (
      <Failed what={say`The office’s day cannot be shown`} error={office.error} onRetry={() => void office.refetch()} />
    ) : (
      <Waiting rows={4} />
    )
  const nowMin = minuteOfInstant(now, zone)
  return (
    <View className="flex-row flex-wrap gap-x-8 gap-y-6">
      <Decisions office={office.data} nowMin={nowMin} zone={zone} />
      <View className="min-w-[300px] flex-1 gap-6">
        <Road road={office.data.road} nowMin={nowMin} zone={zone} />
        <Score score={office.data.score} />
      </View>
    </View>
  )
}

function Card({ title, urgent, children }: { title: string; urgent: boolean; children: ReactNode }) {
  return (
    <View
      className={`gap-2 rounded-card border-2 border-line border-l-8 bg-sheet px-4 py-3 ${urgent ? 'border-l-oxblood' : 'border-l-copper'}`}
    >
      <T kind="heading" level={3}>
        {title}
      </T>
      {children}
    </View>
  )
}

function Decisions({ office, nowMin, zone }: { office: OfficeDto; nowMin: number; zone: string }) {
  const { alarms, road, late, offers, silent, contracts } = office
  const behind = road.map((day) => ({ day, standing: standingOf(day, nowMin) })).filter(({ standing }) => standing.behindMin > 0)
  const lines = [
    late.spent + late.overdue > 0 ? (
      <Line
        key="late"
        href="/due?until=now&sort=risk"
        strong={say`${late.spent} spent, ${late.overdue} overdue`}
        rest={[late.lamps > 0 ? many(late.lamps, 'lamp', 'lamps') : '', late.unscheduled > 0 ? say`${late.unscheduled} unscheduled` : '']
          .filter(Boolean)
          .join(' · ')}
        act={say`Show`}
      />
    ) : null,
    ...offers.map(({ siteId, siteName, faults }) => (
      <Line
        key={`offer${siteId}`}
        href={`/sites/${siteId}`}
        strong={siteName}
        rest={many(faults, 'fault was seen: offer the work', 'faults were seen: offer the work')}
        act={say`Offer`}
      />
    )),
    ...silent.map(({ siteId, siteName, name, heardAt }) => (
      <Line
        key={`silent${siteId}${name}`}
        href={`/sites/${siteId}`}
        strong={`${siteName}: ${name}`}
        rest={heardAt === null ? say`never heard` : say`not heard since ${instantText(heardAt, zone)}`}
        act={say`Look`}
      />
    )),
    contracts.shorten + contracts.lengthen > 0 ? (
      <Line
        key="contracts"
        href="/rules"
        strong={say`${contracts.shorten + contracts.lengthen} contract intervals`}
        rest={say`${contracts.shorten} too long · ${contracts.lengthen} shorter than needed`}
        act={say`Look`}
      />
    ) : null,
  ].filter((line) => line !== null)
  const count = alarms.length + behind.length + lines.length
  return (
    <View className="min-w-[300px] flex-1 gap-3">
      <T kind="heading" level={2}>
        {count === 0 ? say`Nothing to act on` : say`Needs action: ${count}`}
      </T>
      {count === 0 ? <T kind="quiet">{say`No hold is on, nobody runs late, and nothing is overdue.`}</T> : null}
      {alarms.map((alarm) => (
        <Alarm key={alarm.hold.id} alarm={alarm} zone={zone} />
      ))}
      {behind.map(({ day, standing }) => (
        <Behind key={day.personId} day={day} standing={standing} zone={zone} />
      ))}
      <View>{lines}</View>
    </View>
  )
}

function Alarm({ alarm, zone }: { alarm: AlarmDto; zone: string }) {
  const router = useRouter()
  const { siteId, siteName, contact, phone, hold, jobId, found } = alarm
  const what = found === null ? holdWords(hold.holdKind) : found.what === 'e-coli' ? say`E. coli found` : say`coliforms found`
  const number = dialled(phone)
  return (
    <Card title={`${siteName}: ${what}`} urgent>
      <T>{hold.text}</T>
      <T kind="small">{say`Since ${instantText(found?.at ?? hold.begunAt, zone)}${hold.until === null ? '' : say`, until ${instantText(hold.until, zone)}`}`}</T>
      <View className="flex-row flex-wrap gap-2">
        {number === '' ? null : (
          <a href={`tel:${number}`} className="block">
            <View className="min-h-[48px] items-center justify-center rounded-card border-2 border-kelp bg-kelp px-4 py-2">
              <T kind="strong" className="text-on-kelp">{say`Call ${contact === '' ? say`the household` : contact}`}</T>
            </View>
          </a>
        )}
        <Button
          label={jobId === null ? say`Open the site` : say`Open the disinfection`}
          onPress={() => router.push(jobId === null ? `/sites/${siteId}` : `/disinfect/${jobId}`)}
        />
      </View>
      {number === '' ? <T kind="quiet">{say`${contact === '' ? say`No contact` : contact}: no telephone number is kept.`}</T> : null}
      <Told hold={hold} siteId={siteId} contact={contact} />
    </Card>
  )
}

interface BehindProps {
  day: RoadDayDto
  standing: ReturnType<typeof standingOf>
  zone: string
}

/** So long without a word, a phone may have no signal, or be switched off. */
const QUIET_MS = 60 * MINUTE_MS

function Behind({ day, standing, zone }: BehindProps) {
  const router = useRouter()
  const { at, behindMin, homeMin, broken } = standing
  const first = day.name.split(' ')[0]
  return (
    <Card title={say`${first ?? ''} is ${duration(behindMin)} behind`} urgent={broken.length > 0}>
      <T>
        {at?.state === 'begun' ? say`Still at ${at.siteName}.` : say`Not yet at ${at?.siteName ?? ''}.`}
        {homeMin === null ? '' : say` Home at about ${timeOfDay(homeMin)}, the day ends at ${timeOfDay(day.toMin)}.`}
      </T>
      {day.heardAt === null || Date.now() - Date.parse(day.heardAt) > QUIET_MS ? (
        <T>{say`${day.heardAt === null ? say`Nothing was ever received from their device` : say`Nothing was received from their device since ${instantText(day.heardAt, zone)}`}: they may be further than it looks. Call before you move anything.`}</T>
      ) : null}
      {broken.map((site) => (
        <T key={site} kind="strong" className="text-oxblood">{say`${site} was promised an earlier time: call them.`}</T>
      ))}
      <View className="self-start">
        <Button label={say`Open the round`} onPress={() => router.push('/round')} />
      </View>
    </Card>
  )
}

function Line({ href, strong, rest, act }: { href: Parameters<typeof Link>[0]['href']; strong: string; rest: string; act: string }) {
  return (
    <Link href={href} asChild>
      <Pressable className="min-h-[56px] w-full flex-row items-center gap-3 border-t-2 border-line py-2">
        <View className="flex-1">
          <T kind="strong">{strong}</T>
          {rest === '' ? null : <T kind="small">{rest}</T>}
        </View>
        <T kind="strong" className="underline">
          {act}
        </T>
      </Pressable>
    </Link>
  )
}

function Road({ road, nowMin, zone }: { road: readonly RoadDayDto[]; nowMin: number; zone: string }) {
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>{say`On the road, ${timeOfDay(nowMin)}`}</T>
      {road.length === 0 ? <T kind="quiet">{say`Nobody has a stop today.`}</T> : null}
      {road.map((day) => (
        <PersonDay key={day.personId} day={day} nowMin={nowMin} zone={zone} />
      ))}
    </View>
  )
}

function PersonDay({ day, nowMin, zone }: { day: RoadDayDto; nowMin: number; zone: string }) {
  const [width, setWidth] = useState(320)
  const standing = standingOf(day, nowMin)
  const { at, homeMin } = standing
  const done = day.stops.filter(({ state }) => state === 'done').length
  const where = at === null ? say`all done` : at.state === 'begun' ? say`at ${at.siteName}` : say`next ${at.siteName}`
  return (
    <View className="gap-1" onLayout={(event: LayoutChangeEvent) => setWidth(event.nativeEvent.layout.width)}>
      <T kind="strong">{day.name}</T>
      <DayLine
        fromMin={day.fromMin}
        toMin={day.toMin}
        homeMin={homeMin}
        stops={roadLine(day, at)}
        width={width}
        label={`${day.name}: ${day.stops.map(({ siteName, arriveMin }) => `${timeOfDay(arriveMin)} ${siteName}`).join(', ')}`}
      />
      <T kind="small">{say`${done} of ${day.stops.length} stops done, ${where}${day.heardAt === null ? say` · nothing received yet` : say` · last received ${instantText(day.heardAt, zone)}`}`}</T>
    </View>
  )
}

/** Fewer say nothing of how good the forecasts are. */
const FEWEST_PARTS = 20
const FEWEST_VISITS = 10
const FEWEST_WEEKS = 4

function Score({ score: { forecasts, fixed, minutes, weeks } }: { score: ScoreDto }) {
  const more = minutes.planned === 0 ? 0 : minutes.taken / minutes.planned - 1
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`How the firm does`}
      </T>
      <T>
        {forecasts.parts < FEWEST_PARTS
          ? say`Forecasts: too few parts to judge them by, ${forecasts.parts} of ${FEWEST_PARTS}. Each part taken out is held against what was forecast that day.`
          : say`Forecasts: of ${forecasts.parts} parts taken out in a year ${forecasts.spent} were spent; ${forecasts.foretold.toFixed(1)} were forecast to be.`}
      </T>
      {fixed.parts < FEWEST_PARTS ? null : (
        <T>{say`Against the label’s intervals: ${fixed.parts} parts used where they would have used ${fixed.byLabel.toFixed(1)}; ${Math.round(fixed.pastDays)} days past the end, where they would have left ${Math.round(fixed.labelPastDays)}.`}</T>
      )}
      <T>
        {minutes.visits < FEWEST_VISITS
          ? say`Minutes: too few visits to judge them by, ${minutes.visits} of ${FEWEST_VISITS}.`
          : say`Minutes: ${minutes.visits} visits of half a year took ${Math.abs(more) < 0.005 ? say`what was planned` : say`${percent(Math.abs(more))} ${more > 0 ? say`more` : say`less`} than planned`}.`}
      </T>
      <T>
        {weeks.weeks < FEWEST_WEEKS || weeks.worst === null
          ? say`Weeks: too few to judge them by, ${weeks.weeks} of ${FEWEST_WEEKS}.`
          : say`Weeks: ${weeks.weeks} whole weeks, ${duration(weeks.meanMin)} on average, the worst ${percent(weeks.worst)} off.`}
      </T>
    </View>
  )
}
