import { sumsOf, type Whose, yearOf } from '@evenround/contract/round-sums'
import type { RoundPage, RoundWeek, SetPlan } from '@evenround/contract/rounds'
import { addDays, weekStart } from '@evenround/core/units'
import { many, say } from '@evenround/core/words'
import { Link, useRouter } from 'expo-router'
import { useCallback, useEffect, useMemo, useRef, useState } from 'react'
import { Pressable, useWindowDimensions, View } from 'react-native'
import { isOffline } from '../../data/day'
import { queryClient, useMe } from '../../data/queries'
import { carryVisit, discardRun, markVisit, putPlan, takeRun, useRound, useRoundWeek } from '../../data/round'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { plainDay } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { Segments } from '../../ui/segments'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { DayTour } from './day-tour'
import { Events, useCurrency } from './events'
import { Progress, ProposalCard, Summary } from './plan-bar'
import { type Line, linesOf, movedBetween } from './plan-view'
import { usePlanner } from './planner-acts'
import { carryPrices, keyOf } from './price'
import { PublishCard } from './publish-card'
import { Ring } from './ring'
import { Unplanned } from './unplanned'
import { VisitPanel } from './visit-panel'
import { WeekLines } from './week-lines'
import { weekNumber } from './words'

/** The round: the year as a ring, the weeks' days as lines, and everything that is decided about them. */
export function Round() {
  const [week, setWeek] = useState<string | null>(null)
  const round = useRound()
  // On the first look one week stands at once; the whole round follows.
  const first = useRoundWeek(week, round.data === undefined)
  const page = round.data ?? first
  const me = useMe()
  const desk = useDesk()
  const rights = me.data?.rights ?? []
  const publication = page?.publication
  return (
    <Screen
      title={say`The round`}
      over={
        publication
          ? say`published ${plainDay(publication.publishedAt.slice(0, 10))} · number ${publication.number}`
          : say`not published yet`
      }
      wide
      aside={desk ? <Links /> : null}
    >
      {page ? (
        <Whole
          page={page}
          first={round.data ? null : (first ?? null)}
          week={week}
          onWeek={setWeek}
          mayPlan={rights.includes('plan-rounds')}
          mayPublish={rights.includes('publish-round')}
        />
      ) : round.error ? (
        <Failed what={say`The round cannot be shown`} error={round.error} onRetry={() => void round.refetch()} />
      ) : (
        <Waiting rows={5} what={say`Loading the round`} />
      )}
      {round.data && round.error ? (
        isOffline(round.error) ? (
          <Notice tone="look" title={say`No connection`} live>
            <T>{say`The round as it was last seen here. It can be planned on this device; moves and publishing want a connection.`}</T>
          </Notice>
        ) : (
          <Failed what={say`This may be out of date`} error={round.error} />
        )
      ) : null}
      {desk ? null : <Links />}
    </Screen>
  )
}

function Links() {
  return (
    <View className="flex-row flex-wrap gap-2">
      <LinkCard href="/year" label={say`The year`} />
      <LinkCard href="/due" label={say`All that is due`} />
      <LinkCard href="/round-files" label={say`Calendar and files`} />
    </View>
  )
}

function LinkCard({ href, label }: { href: string; label: string }) {
  return (
    <Link href={href} asChild>
      <Pressable className="min-h-[48px] justify-center rounded-card border-2 border-line bg-sheet px-3">
        <T kind="label">{label}</T>
      </Pressable>
    </Link>
  )
}

interface WholeProps {
  page: RoundPage
  /** While only one week of it is there: what the whole comes to. */
  first: RoundWeek | null
  /** Null for the first one. */
  week: string | null
  onWeek: (week: string) => void
  mayPlan: boolean
  mayPublish: boolean
}

function Whole({ page, first, week: asked, onWeek: setWeek, mayPlan, mayPublish }: WholeProps) {
  const { set, draft } = page
  /** What prices and moves a visit wants the whole round. */
  const mayAct = mayPlan && first === null
  const desk = useDesk()
  const router = useRouter()
  const screen = useWindowDimensions()
  const currency = useCurrency()
  const me = useMe().data?.person.id
  const [whose, setWhose] = useState<Whose>(!mayPlan && set.technicians.some(({ id }) => id === me) ? (me ?? 'all') : 'all')
  const firstWeek = weekStart(set.days[0] ?? set.today)
  const week = asked ?? firstWeek
  const [chosenId, setChosenId] = useState<string | null>(null)
  const [dayKey, setDayKey] = useState<string | null>(null)
  const [looking, setLooking] = useState(false)
  const [publishing, setPublishing] = useState(false)
  const [told, setTold] = useState<{ text: string; bad: boolean } | null>(null)
  const planner = usePlanner(whose)
  const { proposal, planning, resume } = planner
  const [offered, underWay] = [page.offered?.id, page.underWay?.id]
  const settled = useRef<string | null>(null)
  // biome-ignore lint/correctness/useExhaustiveDependencies: taken up once for each run, not with every change of the page
  useEffect(() => {
    if (mayAct && planning === null && (offered ?? underWay) !== undefined && (offered ?? underWay) !== settled.current) void resume(page)
  }, [mayAct, offered, underWay])
  const shown: SetPlan = proposal && looking && proposal.setId === set.id ? proposal.plan : draft.plan
  const year = useMemo(() => first?.year[whose] ?? yearOf(set, shown, whose), [first, set, shown, whose])
  const sums = useMemo(() => first?.sums[whose] ?? sumsOf(set, shown, whose), [first, set, shown, whose])
  const lines = useMemo(() => linesOf(set, shown, week, whose), [set, shown, week, whose])
  const moved = useMemo(() => (proposal ? movedBetween(draft.plan, proposal.plan) : movedSince(page)), [proposal, draft.plan, page])
  const chosen = set.visits.find(({ id }) => id === chosenId) ?? null
  const prices = useMemo(() => (chosenId ? carryPrices(set, shown, chosenId) : null), [set, shown, chosenId])

  const run = useCallback(async (act: () => Promise<unknown>): Promise<boolean> => {
    setTold(null)
    try {
      await act()
      return true
    } catch (error) {
      setTold({ text: error instanceof Error ? error.message : say`It could not be done.`, bad: true })
      return false
    }
  }, [])
  const carry = useCallback(
    (visitId: string, to: string): void => {
      const price = carryPrices(set, draft.plan, visitId)
      const target = price.to.get(to)
      if (!target) return
      const from = price.now ? { technician: price.now.technician, day: price.now.day } : null
      void run(() => carryVisit(page, visitId, from, { technician: target.technician, day: target.day, at: target.at }))
    },
    [page, set, draft.plan, run],
  )
  const onKey = useCallback(
    (key: 'pin' | 'forbid' | 'before' | 'after'): void => {
      if (key === 'before') setWeek(week > firstWeek ? addDays(week, -7) : week)
      else if (key === 'after') setWeek(addDays(week, 7) <= (set.days.at(-1) ?? week) ? addDays(week, 7) : week)
      else if (chosenId && prices?.now)
        void run(() => markVisit({ visitId: chosenId, kind: key, day: set.days[prices.now?.day ?? 0] ?? set.today }))
    },
    [chosenId, prices, set, week, firstWeek, setWeek, run],
  )
  /** A visit that lost its day is given another one, as a proposal. */
  const marked = (next: RoundPage): void => {
    if (!chosenId || next.draft.plan.unplanned.every(({ visit }) => visit !== chosenId)) return
    setLooking(true)
    void planner.mend(next)
  }
  const take = (): void => {
    if (!proposal) return
    const made = proposal.run
    if (made) settled.current = made.id
    void run(async () => {
      if (made) {
        await takeRun(made.id, proposal.version)
        await queryClient.invalidateQueries({ queryKey: ['round'] })
      } else await putPlan(proposal.version, proposal.setId, proposal.plan.days)
    }).then((done) => {
      if (!done) return
      planner.drop()
      setLooking(false)
    })
  }
  const weekLoad = year.weeks.find((one) => one.week === week)
  const share = weekLoad?.availableMin ? Math.round((100 * weekLoad.minutes) / weekLoad.availableMin) : 0
  const person = set.technicians.find(({ id }) => id === whose)
  const anyPlanned = draft.plan.days.some(({ stops }) => stops.length > 0)
  const ringSize = desk ? 380 : Math.min(screen.width - 48, 340)
  const words: Record<string, string> = {
    ...(set.technicians.length > 1 ? { all: say`Everybody` } : {}),
    ...Object.fromEntries(set.technicians.map(({ id, name }) => [id, name.split(' ')[0] ?? name])),
  }
  const focus =
    lines.find((line) => keyOf(line) === dayKey) ??
    lines.find(({ stops }) => stops.some(({ visit }) => visit.id === chosenId)) ??
    (desk ? null : (lines[0] ?? null))

  if (set.technicians.length === 0)
    return (
      <Empty
        title={say`Nobody is on the round yet`}
        text={say`A round needs to know who drives, from where, and on which days. What is due is planned as soon as one person has a place to start from.`}
        act={{ label: say`Set working times`, onPress: () => router.push('/times') }}
      />
    )
  const left = (
    <View className={desk ? 'w-[400px] gap-4' : 'gap-4'}>
      {set.technicians.length > 1 ? (
        <Segments
          label={say`Whose`}
          value={set.technicians.length > 1 ? whose : (set.technicians[0]?.id ?? 'all')}
          words={words}
          onChange={setWhose}
        />
      ) : null}
      <View className="items-center">
        <Ring year={year} week={week} onWeek={setWeek} size={ringSize} />
      </View>
      <Summary sums={sums} hourMinor={set.terms.hourMinor} currency={currency} />
      {told ? (
        <T role="alert" kind="strong" className={told.bad ? 'text-oxblood' : 'text-lichen-text'}>
          {told.text}
        </T>
      ) : null}
      {planner.trouble ? <Failed what={say`Nothing was planned`} error={new Error(planner.trouble)} /> : null}
      {planner.planning ? <Progress planning={planner.planning} onStop={planner.stop} /> : null}
      {proposal ? (
        <ProposalCard
          page={page}
          proposal={proposal}
          whose={whose}
          looking={looking}
          onLook={() => setLooking(!looking)}
          onTake={take}
          onDrop={() => {
            if (proposal.run) {
              settled.current = proposal.run.id
              void run(() => discardRun(proposal.run?.id ?? ''))
            }
            planner.drop()
            setLooking(false)
          }}
        />
      ) : null}
      {publishing ? (
        <PublishCard
          page={page}
          run={run}
          onDone={(number) => {
            setPublishing(false)
            if (number !== null) setTold({ text: say`Published as number ${number}.`, bad: false })
          }}
        />
      ) : null}
      {mayAct && !planner.planning && !proposal && !publishing ? (
        <View className="flex-row flex-wrap gap-2">
          <Button
            label={anyPlanned && sums.unplanned === 0 ? say`Plan again` : say`Plan the quarter`}
            kind="act"
            size="big"
            grow
            onPress={() => {
              setLooking(true)
              void planner.plan(page)
            }}
          />
          {mayPublish ? <Button label={say`Publish…`} size="big" grow onPress={() => setPublishing(true)} /> : null}
        </View>
      ) : null}
      {mayAct && !planner.planning && !proposal ? (
        <Events
          page={page}
          run={run}
          onChanged={(next) => {
            setLooking(true)
            void planner.mend(next)
          }}
        />
      ) : null}
      {first ? <T kind="quiet">{say`Loading the other weeks …`}</T> : null}
      <Flags page={page} />
    </View>
  )
  const picker = <DayPicker lines={lines} focus={focus} onDay={setDayKey} everybody={whose === 'all' && set.technicians.length > 1} />
  const right = (
    <View className="min-w-0 flex-1 gap-3">
      <View className="flex-row items-center gap-2">
        <T kind="heading" level={2} className="flex-1">
          {say`Week ${weekNumber(week)}${person ? ` · ${person.name.split(' ')[0]}` : ''} · ${share} % filled`}
        </T>
        <Button label={`‹ ${weekNumber(addDays(week, -7))}`} disabled={week <= firstWeek} onPress={() => onKey('before')} />
        <Button
          label={`${weekNumber(addDays(week, 7))} ›`}
          disabled={addDays(week, 7) > (set.days.at(-1) ?? week)}
          onPress={() => onKey('after')}
        />
      </View>
      {desk ? null : picker}
      <WeekLines
        page={page}
        plan={shown}
        lines={desk || !focus ? lines : [focus]}
        week={week}
        whose={whose}
        chosenId={chosenId}
        prices={prices}
        moved={moved}
        mayPlan={mayAct && !looking}
        onChoose={setChosenId}
        onCarry={carry}
        onKey={onKey}
      />
      {desk && mayPlan ? (
        <T kind="small">{say`j k choose · ↑ ↓ move · Enter drops · P pin · F forbid this day · [ ] week · ? all keys`}</T>
      ) : null}
      {chosen && prices ? (
        <VisitPanel
          key={chosen.id}
          page={page}
          visit={chosen}
          prices={prices}
          mayPlan={mayAct && !looking}
          run={run}
          onDone={() => setChosenId(null)}
          onMarked={marked}
        />
      ) : null}
      {desk ? picker : null}
      {focus ? <DayTour set={set} line={focus} onChoose={setChosenId} /> : null}
      <Unplanned page={page} plan={shown} onChoose={setChosenId} />
    </View>
  )
  return (
    <View className={desk ? 'flex-row items-start gap-8' : 'gap-5'}>
      {desk || mayPlan ? left : right}
      {desk || mayPlan ? right : left}
    </View>
  )
}

/** Visits that are on another day than the road has them. */
function movedSince({ set, draft, published }: RoundPage): Set<string> {
  const now = new Map(
    draft.plan.days.flatMap(({ technician, day, stops }) => stops.map(({ visit }) => [visit, `${technician}/${set.days[day]}`] as const)),
  )
  return new Set(published.flatMap(({ visit, technician, day }) => (now.get(visit) === `${technician}/${day}` ? [] : [visit])))
}

function DayPicker({
  lines,
  focus,
  onDay,
  everybody,
}: {
  lines: readonly Line[]
  focus: Line | null
  onDay: (key: string) => void
  everybody: boolean
}) {
  if (lines.length === 0) return null
  return (
    <View className="flex-row flex-wrap gap-2" role="radiogroup" aria-label={say`A day in order`}>
      {lines.map((line) => {
        const on = focus !== null && keyOf(focus) === keyOf(line)
        return (
          <Pressable
            key={keyOf(line)}
            role="radio"
            aria-checked={on}
            onPress={() => onDay(keyOf(line))}
            className={`min-h-[48px] justify-center rounded-card border-2 px-3 ${on ? 'border-kelp bg-kelp' : 'border-line bg-sheet'}`}
          >
            <T kind="label" className={on ? 'text-on-kelp' : 'text-ink'}>
              {`${Number(line.iso.slice(8))}${everybody ? ` ${line.name.split(' ')[0]}` : ''} · ${line.stops.length}`}
            </T>
          </Pressable>
        )
      })}
    </View>
  )
}

/** Published stops that no longer keep their window. */
function Flags({ page: { flags } }: { page: RoundPage }) {
  if (flags.length === 0) return null
  return (
    <Notice tone="look" title={many(flags.length, 'stop no longer keeps its window', 'stops no longer keep their window')}>
      {flags.map(({ stopId, siteName, day, text }) => (
        <T key={stopId}>{`${siteName}, ${plainDay(day)}, ${text}.`}</T>
      ))}
    </Notice>
  )
}
