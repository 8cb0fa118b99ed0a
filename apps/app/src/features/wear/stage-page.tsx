import type { SeriesDto, StagePageDto } from '@evenround/contract/due'
import type { Right } from '@evenround/core/firm'
import { daysBetween } from '@evenround/core/units'
import type { ReadingKind } from '@evenround/core/wear'
import { many, say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { useMe, useStage } from '../../data/queries'
import { useUnits } from '../../data/units'
import { gradeWord } from '../../parts/visit/grades'
import { causeWord, dueSentence, evidenceText, fittedText, spanWords, stageName, waterOf } from '../../parts/wear/words'
import { BackLink } from '../../ui/back-link'
import { daySpan, shortDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { SeriesChart } from '../../ui/series-chart'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { Vessel } from '../../ui/vessel'
import { WindowsAxis } from '../../ui/windows-axis'
import { RuleChoice } from './rule-choice'
import { SchoolChoice } from './school-choice'
import { axis, drawn, inFirmUnits, READING_WORDS, valueText } from './stage-view'
import { UseCard } from './use-card'

/** One stage: when it ends and why, what would tell more, its readings, and what was found before. */
export function StagePage({ id }: { id: string }) {
  const page = useStage(id)
  const me = useMe()
  if (!page.data) {
    return (
      <Screen over={<BackLink href="/sites" label={say`Sites`} />} title={say`Stage`}>
        {page.error ? (
          <Failed what={say`This stage cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading the stage`} />
        )}
      </Screen>
    )
  }
  const { stage } = page.data
  const may = (right: Right): boolean => me.data?.rights.includes(right) === true
  return (
    <Screen
      over={<BackLink href={`/sites/${stage.siteId}`} label={`${stage.siteName} · ${stage.systemName}`} />}
      title={`${stage.position} ${stageName(stage)}`}
      wide
    >
      <Body page={page.data} mayChoose={may('change-schools')} mayState={may('record-facts')} />
    </Screen>
  )
}

function Body({ page, mayChoose, mayState }: { page: StagePageDto; mayChoose: boolean; mayState: boolean }) {
  const [width, setWidth] = useState(0)
  return (
    <View className="gap-6" onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
      <Now page={page} />
      {page.forecast && width > 0 ? <Causes page={page} width={Math.min(width, 760)} /> : null}
      <Narrowing page={page} />
      <RuleChoice page={page} mayChoose={mayChoose} />
      <UseCard page={page} mayState={mayState} />
      <SchoolChoice page={page} mayChoose={mayChoose} />
      {width > 0 ? <Readings page={page} width={width} /> : null}
      <History page={page} />
    </View>
  )
}

function Now({ page }: { page: StagePageDto }) {
  const units = useUnits()
  const { stage, part, forecast, today, due } = page
  const asStage = { ...stage, part, forecast, due }
  const water = waterOf(asStage, today)
  return (
    <View className="flex-row flex-wrap items-start gap-4">
      <Vessel
        {...water}
        height={120}
        label={water.level === null ? say`life not known` : say`${Math.round(100 * water.level)} % of its life left`}
      />
      <View className="shrink grow basis-[200px] gap-1">
        <T kind="heading" level={2}>
          {dueSentence(asStage, today, units)}
        </T>
        {forecast ? (
          <T>{say`By what is known eight in ten such parts ${forecast.p90 < today ? say`were over` : say`are over`} between ${shortDay(forecast.p10, today)} and ${shortDay(forecast.p90, today)}.`}</T>
        ) : null}
        {forecast && forecast.doubted.length > 0 ? (
          <T>
            {forecast.doubted.length === 1
              ? say`One reading contradicts the others and is held for a slip: measure again.`
              : say`${forecast.doubted.length} readings contradict the others and are held for slips: measure again.`}
          </T>
        ) : null}
        <T kind="quiet">{fittedText(asStage, today)}</T>
        {part && !part.dateKnown ? <T kind="quiet">{say`The window is wider for it: it may be near its end already.`}</T> : null}
        {page.carriedOver.map((day) => (
          <T key={day} kind="quiet">{say`Dirt got past the stage before on ${shortDay(day, today)}: half of the rest is counted.`}</T>
        ))}
        {page.washedOn.length > 0 ? (
          <T kind="quiet">{say`Washed ${many(page.washedOn.length, 'time', 'times')}, last ${shortDay(page.washedOn.at(-1) ?? '', today)}.`}</T>
        ) : null}
      </View>
    </View>
  )
}

function Causes({ page, width }: { page: StagePageDto; width: number }) {
  const units = useUnits()
  const { forecast, today, due } = page
  if (!forecast) return null
  const at = (day: string): number => daysBetween(today, day)
  const windows = forecast.causes.map(({ cause, p10, p50, p90, hazardShare, evidence }) => ({
    id: cause,
    label: say`${causeWord(cause, units)}, ${Math.round(100 * hazardShare)} % of the risk: ${evidenceText(evidence, today)}`,
    from: at(p10),
    middle: at(p50),
    to: at(p90),
    strong: cause === forecast.governing,
  }))
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Why then`}
      </T>
      <WindowsAxis
        windows={windows}
        {...axis(page)}
        due={due ? at(due.due) : null}
        width={width}
        label={forecast.causes
          .map(({ cause, p10, p50, p90 }) => say`${causeWord(cause, units)}: about ${shortDay(p50, today)}, ${daySpan(p10, p90, today)}`)
          .join('; ')}
      />
      <T kind="small">{say`Band: eight in ten end in it. Upright line: today. Broken line: the day to change it.`}</T>
    </View>
  )
}

function Narrowing({ page: { forecast } }: { page: StagePageDto }) {
  if (!forecast) return null
  const now = daysBetween(forecast.p10, forecast.p90)
  const telling = forecast.narrowing.filter(({ windowDaysAfter }) => spanWords(windowDaysAfter) !== spanWords(now))
  if (telling.length === 0) return null
  return (
    <View className="gap-1">
      <T kind="heading" level={2}>
        {say`What would tell more`}
      </T>
      {telling.map(({ reading, windowDaysAfter }) => (
        <T key={reading}>{say`${READING_WORDS[reading as ReadingKind]}: window ${spanWords(now)} → ${spanWords(windowDaysAfter)}.`}</T>
      ))}
    </View>
  )
}

function Readings({ page, width }: { page: StagePageDto; width: number }) {
  if (page.series.length === 0)
    return (
      <Empty title={say`Not measured since it was fitted`} text={say`Readings taken at a stop are drawn here, with where they lead.`} />
    )
  const column = width > 800 ? (width - 24) / 2 : width
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Readings`}
      </T>
      <View className="flex-row flex-wrap gap-6">
        {page.series.map((series) => (
          <Series key={series.quantity} series={series} page={page} width={column} />
        ))}
      </View>
    </View>
  )
}

function Series({ series, page, width }: { series: SeriesDto; page: StagePageDto; width: number }) {
  const { name, unit, shown } = inFirmUnits(series.quantity, useUnits())
  const ends = axis(page)
  const text = (value: number): string => valueText(series.quantity, shown(value))
  const last = series.points.at(-1)
  return (
    <View style={{ width }} className="gap-1">
      <T kind="label">{`${name}${last ? say`: ${text(last.value)}${unit ? ` ${unit}` : ''} on ${shortDay(last.on, page.today)}` : ''}`}</T>
      <SeriesChart
        {...drawn(series, page, ends.last)}
        {...ends}
        limit={
          series.limit === null ? null : { value: series.limit, label: say`replace at ${text(series.limit)}${unit ? ` ${unit}` : ''}` }
        }
        format={text}
        width={width}
        label={`${name}: ${series.points.map(({ on, value }) => say`${text(value)} on ${shortDay(on, page.today)}`).join(', ')}`}
      />
    </View>
  )
}

function History({ page: { history, today } }: { page: StagePageDto }) {
  return (
    <View>
      <T kind="heading" level={2}>
        {say`What sat here`}
      </T>
      {history.length === 0 ? <T kind="quiet">{say`Nobody wrote down a part yet.`}</T> : null}
      {history.map((one, index) => (
        <PastPart key={`${one.fittedOn}/${one.partNumber}`} part={one} inService={index === 0} today={today} />
      ))}
    </View>
  )
}

function PastPart({ part, inService, today }: { part: StagePageDto['history'][number]; inService: boolean; today: string }) {
  const { partNumber, fittedOn, dateKnown, removedOn, found, dirtPast, visitId } = part
  const since = say`since ${dateKnown ? '' : say`before `}${shortDay(fittedOn, today)}`
  const time = removedOn === null ? since : say`${daySpan(fittedOn, removedOn, today)}, ${daysBetween(fittedOn, removedOn)} days`
  const told =
    found === null ? say`nobody wrote down how it was found` : say`found ${gradeWord(found)}${dirtPast ? say`, dirt got past it` : ''}`
  const row = 'min-h-[48px] w-full flex-row flex-wrap items-center gap-x-3 border-t-2 border-line py-2'
  const words = (
    <>
      <T kind="strong" className="w-[120px]">
        {partNumber}
      </T>
      <T className="min-w-[170px] flex-1">{time}</T>
      <T kind="quiet">{visitId === null ? say`from a list · ${inService ? say`in service` : told}` : inService ? say`in service` : told}</T>
    </>
  )
  if (visitId === null) return <View className={row}>{words}</View>
  return (
    <Link href={`/book/${visitId}`} asChild>
      <Pressable className={row}>{words}</Pressable>
    </Link>
  )
}
