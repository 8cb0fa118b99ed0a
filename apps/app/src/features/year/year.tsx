import type { YearFigures, YearPage, YearPlanDto, YearWeekDto } from '@evenround/contract/year-page'
import { addDays } from '@evenround/core/units'
import { many, say } from '@evenround/core/words'
import { type ReactNode, useState } from 'react'
import { useWindowDimensions, View } from 'react-native'
import { useMe } from '../../data/queries'
import {
  applyYear,
  applyYearHere,
  discardYear,
  planTheYear,
  planTheYearAnywhere,
  undoYear,
  useYear,
  useYearWork,
  type YearHere,
} from '../../data/year'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { duration, instantText, plainDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { Compare, type Worth } from './compare'
import { Heavy } from './heavy'
import { WhatIf } from './what-if'
import { YearRing } from './year-ring'

/** The year: as it is planned, as it could be, the weeks that will hurt and what would help. */
export function Year() {
  const year = useYear()
  return (
    <Screen title={say`The year`} over={<BackLink href="/round" label={say`The round`} />} wide>
      {year.data ? (
        <Whole page={year.data} />
      ) : year.error ? (
        <Failed what={say`The year cannot be shown`} error={year.error} onRetry={() => void year.refetch()} />
      ) : (
        <Waiting rows={4} what={say`Loading the year`} />
      )}
    </Screen>
  )
}

function Card({ title, children, testID }: { title: string; children: ReactNode; testID?: string }) {
  return (
    <View testID={testID} className="gap-3 rounded-card border-2 border-line bg-sheet px-4 py-3">
      <T kind="heading" level={2}>
        {title}
      </T>
      {children}
    </View>
  )
}

function Whole({ page }: { page: YearPage }) {
  const { current, offered } = page
  const desk = useDesk()
  const screen = useWindowDimensions()
  const me = useMe().data
  const mayPlan = me?.rights.includes('plan-rounds') ?? false
  const [busy, setBusy] = useState(false)
  const [trouble, setTrouble] = useState<unknown>(null)
  const [old, setOld] = useState(false)
  const [asked, setAsked] = useState<string | null>(null)
  const [here, setHere] = useState<YearHere | null>(null)
  const work = useYearWork(mayPlan)
  const run = async (act: () => Promise<unknown>): Promise<void> => {
    setTrouble(null)
    setBusy(true)
    try {
      await act()
      setOld(false)
    } catch (error) {
      setTrouble(error)
    }
    setBusy(false)
  }
  const plan = here === null ? (offered ?? current) : null
  const proposed = here?.worked.shown ?? offered
  const figures = proposed && old ? proposed.before : (proposed ?? plan)?.after
  const worth: Worth = page
  const planIt = (): void => void run(async () => setHere(await planTheYearAnywhere(work.data)))
  const week = figures?.weeks.find((one) => one.week === asked) ?? figures?.weeks[0]
  const left =
    figures && week ? (
      <View className={desk ? 'w-[400px] gap-4' : 'gap-4'}>
        <View className="items-center">
          <YearRing figures={figures} week={week.week} onWeek={setAsked} size={desk ? 380 : Math.min(screen.width - 48, 340)} />
        </View>
        <WeekText week={week} figures={figures} onWeek={setAsked} />
        <Key />
      </View>
    ) : null
  return (
    <View className={desk ? 'flex-row items-start gap-8' : 'gap-4'}>
      {left}
      <View className={desk ? 'min-w-0 flex-1 gap-4' : 'gap-4'}>
        {trouble === null ? null : <Failed what={say`Nothing was changed`} error={trouble} />}
        {busy ? (
          <View role="status" testID="planning-year" className="gap-1 rounded-card border-2 border-kelp bg-sheet px-4 py-3">
            <T kind="strong">{say`Working on the year…`}</T>
            <T kind="quiet">{say`This takes some seconds. Nothing changes until you apply it.`}</T>
          </View>
        ) : null}
        {here ? (
          <Offer
            offered={onThisDevice(here)}
            hasPlan={current !== null}
            worth={worth}
            old={old}
            mayPlan={mayPlan && !busy}
            onOld={() => setOld(!old)}
            onApply={() =>
              void run(async () => {
                await applyYearHere(here)
                setHere(null)
              })
            }
            onDiscard={() => setHere(null)}
          />
        ) : null}
        {plan === null && here === null && !busy ? (
          <Empty
            title={say`Each thing is planned when it is due`}
            text={say`A plan of the year spreads the work over its weeks by the hours there are and keeps areas together. It goes past no window, and before one only where that saves more time than the part life it costs. The quarters are then planned by it.`}
            {...(mayPlan ? { act: { label: say`Plan the year`, onPress: planIt } } : {})}
          />
        ) : null}
        {offered && here === null ? (
          <Offer
            offered={offered}
            hasPlan={current !== null}
            worth={worth}
            old={old}
            mayPlan={mayPlan && !busy}
            onOld={() => setOld(!old)}
            onApply={() => void run(() => applyYear(offered.id))}
            onDiscard={() => void run(() => discardYear(offered.id))}
          />
        ) : null}
        {current && !offered && here === null ? (
          <InForce
            current={current}
            worth={worth}
            timeZone={me?.firm.timeZone ?? 'UTC'}
            mayPlan={mayPlan && !busy}
            onUndo={() => void run(() => undoYear(current.id))}
            onAgain={planIt}
          />
        ) : null}
        {plan ? (
          <Card title={say`Heavy weeks`} testID="heavy">
            <Heavy
              heavy={plan.heavy}
              worth={worth}
              onTry={
                mayPlan && !busy && plan.mayApply
                  ? (from, { chains, toWeek }) => void run(() => planTheYear({ kind: 'move', planId: plan.id, chains, from, to: toWeek }))
                  : null
              }
            />
          </Card>
        ) : null}
        {mayPlan ? (
          <Card title={say`What if…`} testID="what-if">
            <WhatIf page={page} busy={busy} onAsk={(whatIf) => void run(() => planTheYear({ kind: 'what-if', whatIf }))} />
          </Card>
        ) : null}
      </View>
    </View>
  )
}

/** What an offer shows of a plan, wherever it was made. */
type Offered = Pick<YearPlanDto, 'kind' | 'title' | 'before' | 'after' | 'leftOut' | 'mayApply' | 'whyNot'> & { note?: string }

const onThisDevice = ({ worked: { shown } }: YearHere): Offered => ({
  ...shown,
  kind: 'even',
  title: '',
  mayApply: true,
  whyNot: '',
  note: say`Planned on this device from what it knew. It can be applied once there is a network, and goes on from what is known then.`,
})

interface OfferProps {
  offered: Offered
  hasPlan: boolean
  worth: Worth
  old: boolean
  mayPlan: boolean
  onOld: () => void
  onApply: () => void
  onDiscard: () => void
}

function Offer({ offered, hasPlan, worth, old, mayPlan, onOld, onApply, onDiscard }: OfferProps) {
  const was = offered.kind === 'what-if' ? say`today` : hasPlan ? say`now` : say`when due`
  return (
    <View testID="offer" className="gap-3 rounded-card border-2 border-kelp bg-sheet px-4 py-3">
      <T kind="heading" level={2}>
        {offered.kind === 'even' ? say`Proposed year` : offered.title}
      </T>
      <Compare before={offered.before} after={offered.after} worth={worth} words={[was, say`proposed`]} />
      {offered.leftOut > 0 ? (
        <T kind="quiet">{say`${many(offered.leftOut, 'site has', 'sites have')} no place anybody can drive to, and is left out.`}</T>
      ) : null}
      {offered.note ? <T kind="quiet">{offered.note}</T> : null}
      {offered.mayApply ? null : <T kind="quiet">{offered.whyNot}</T>}
      <View className="flex-row flex-wrap gap-2">
        {mayPlan && offered.mayApply ? <Button label={say`Apply plan`} kind="act" grow onPress={onApply} /> : null}
        <Button label={old ? say`See the new one` : say`See the old one`} grow onPress={onOld} />
        {mayPlan ? <Button label={say`Discard plan`} grow onPress={onDiscard} /> : null}
      </View>
    </View>
  )
}

interface InForceProps {
  current: YearPlanDto
  worth: Worth
  timeZone: string
  mayPlan: boolean
  onUndo: () => void
  onAgain: () => void
}

function InForce({ current, worth, timeZone, mayPlan, onUndo, onAgain }: InForceProps) {
  return (
    <Card title={say`The quarters are planned by this year`} testID="in-force">
      <T kind="quiet">{say`Applied ${instantText(current.appliedAt ?? current.madeAt, timeZone)}, planned by ${current.byName}.`}</T>
      <Compare before={current.before} after={current.after} worth={worth} words={[say`before`, say`planned`]} />
      {mayPlan ? (
        <View className="flex-row flex-wrap gap-2">
          <Button label={say`Plan the year again`} kind="act" grow onPress={onAgain} />
          <Button label={say`Take it back`} grow onPress={onUndo} />
        </View>
      ) : null}
    </Card>
  )
}

function WeekText({ week, figures, onWeek }: { week: YearWeekDto; figures: YearFigures; onWeek: (week: string) => void }) {
  const at = figures.weeks.findIndex((one) => one.week === week.week)
  const [before, after] = [figures.weeks[at - 1]?.week, figures.weeks[at + 1]?.week]
  return (
    <View className="gap-1">
      <View className="flex-row items-center gap-2">
        <T kind="heading" level={2} className="flex-1">{`${plainDay(week.week)} – ${plainDay(addDays(week.week, 6))}`}</T>
        <Button label="‹" hint={say`The week before`} disabled={before === undefined} onPress={() => before && onWeek(before)} />
        <Button label="›" hint={say`The week after`} disabled={after === undefined} onPress={() => after && onWeek(after)} />
      </View>
      <T>
        {week.capacityMin === 0 && week.loadMin === 0
          ? say`Nobody works.`
          : say`${many(week.visits, 'visit', 'visits')}, ${duration(week.loadMin)} of ${duration(week.capacityMin)}, of it ${duration(week.travelMin)} driving`}
      </T>
      {week.loadMin > 0 ? (
        <T kind="quiet">
          {say`${duration(week.fixedMin)} promised or held · ${duration(week.likelyMin)} by wear · ${duration(week.expectedMin)} expected`}
        </T>
      ) : null}
    </View>
  )
}

const SWATCH = 'h-3 w-3 rounded-[2px]'
function Key() {
  const all: [string, string][] = [
    ['bg-kelp', say`promised or held to its day`],
    ['bg-brine', say`likely: the wear of what is in says so`],
    ['bg-brine-pale', say`expected: by how long such things last`],
    ['bg-copper', say`more than the hours there are`],
  ]
  return (
    <View className="gap-1">
      {all.map(([color, text]) => (
        <View key={color} className="flex-row items-center gap-2">
          <View className={`${SWATCH} ${color}`} />
          <T kind="small">{text}</T>
        </View>
      ))}
    </View>
  )
}
