import type { RoundPage, TodaySpotDto } from '@evenround/contract/rounds'
import { addDays } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useMe, useSite, useSites } from '../../data/queries'
import { askForVisit, lookAnew, placesToday, putToday, sayDayOff } from '../../data/round'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { duration, timeOfDay } from '../../ui/format'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'
import { weekdayWord } from './words'

interface EventProps {
  page: RoundPage
  /** What to do with the round as it is then: find a place for what has none. */
  onChanged: (page: RoundPage) => void
  run: (act: () => Promise<unknown>) => Promise<boolean>
}

/** Things that come between: somebody is ill, somebody called. */
export function Events({ page, onChanged, run }: EventProps) {
  const [open, setOpen] = useState<'ill' | 'called' | null>(null)
  const changed = (next: RoundPage): void => {
    setOpen(null)
    onChanged(next)
  }
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Somebody is ill…`} grow onPress={() => setOpen(open === 'ill' ? null : 'ill')} />
        <Button label={say`Somebody called…`} grow onPress={() => setOpen(open === 'called' ? null : 'called')} />
      </View>
      {open === 'ill' ? <Ill page={page} run={run} onChanged={changed} /> : null}
      {open === 'called' ? <Called page={page} run={run} onChanged={changed} /> : null}
    </View>
  )
}

const DAYS_OFFERED = 4

function Ill({ page, onChanged, run }: EventProps) {
  const { set } = page
  const [who, setWho] = useState<string | null>(set.technicians[0]?.id ?? null)
  const [day, setDay] = useState<string | null>(null)
  const person = set.technicians.find(({ id }) => id === who)
  const own = set.days.filter((_, index) => person && !person.daysOff.includes(index)).slice(0, DAYS_OFFERED)
  const days = [set.today, ...own]
  const act = (): void => {
    if (who === null || day === null) return
    void run(async () => {
      await sayDayOff({ personId: who, fromDay: day, toDay: day, why: say`ill`, source: 'sick' })
      onChanged(await lookAnew())
    })
  }
  return (
    <View testID="ill" className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Choice
        label={say`Who`}
        value={who}
        options={set.technicians.map(({ id, name }) => ({ value: id, label: name.split(' ')[0] ?? name }))}
        onChange={setWho}
      />
      <Choice
        label={say`Which day`}
        value={day}
        options={days.map((one) => ({ value: one, label: one === set.today ? say`Today` : weekdayWord(one) }))}
        onChange={setDay}
      />
      <T kind="small">{say`Their stops of that day are given new places, and as little else moves as can be. Nothing is published by it.`}</T>
      <Button label={say`Find other days`} kind="act" disabled={who === null || day === null} onPress={act} />
    </View>
  )
}

const SOON_DAYS = 3
const TODAY = 'today'

function Called({ page, onChanged, run }: EventProps) {
  const sites = useSites()
  const [siteId, setSiteId] = useState('')
  const [minutes, setMinutes] = useState('45')
  const [why, setWhy] = useState('')
  const [within, setWithin] = useState<string | null>(String(SOON_DAYS))
  const [spots, setSpots] = useState<readonly TodaySpotDto[] | null>(null)
  const [put, setPut] = useState<string | null>(null)
  const site = useSite(siteId, siteId !== '')
  const system = site.data?.systems[0]
  const workMin = Number(minutes)
  const good = system !== undefined && Number.isInteger(workMin) && workMin >= 5 && workMin <= 600 && why.trim() !== ''
  const today = within === TODAY
  const look = (): void => {
    if (!system) return
    setPut(null)
    void run(async () => setSpots(await placesToday({ systemId: system.id, workMin })))
  }
  const take = (spot: TodaySpotDto): void => {
    if (!system) return
    void run(async () => {
      await putToday({ systemId: system.id, workMin, why: why.trim() }, spot)
      setSpots(null)
      setPut(say`${site.data?.site.name ?? say`It`} is on ${spot.name}’s day, about ${timeOfDay(spot.arriveMin)}.`)
    })
  }
  const act = (): void => {
    if (!system) return
    const fromDay = addDays(page.set.today, 1)
    void run(async () => {
      onChanged(
        await askForVisit({ systemId: system.id, workMin, fromDay, toDay: addDays(page.set.today, Number(within)), why: why.trim() }),
      )
    })
  }
  return (
    <View testID="called" className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Select
        label={say`Which site`}
        value={siteId}
        none={say`Choose a site`}
        groups={[{ label: say`Sites`, options: (sites.data?.sites ?? []).map(({ id, name }) => ({ value: id, label: name })) }]}
        onChange={setSiteId}
      />
      <Field label={say`What is the matter`} value={why} onChangeText={setWhy} />
      <Field label={say`Work, minutes`} value={minutes} onChangeText={setMinutes} inputMode="numeric" className="w-40" />
      <Choice
        label={say`Within`}
        value={within}
        options={[
          { value: TODAY, label: say`today` },
          { value: '2', label: say`two days` },
          { value: '3', label: say`three days` },
          { value: '7', label: say`a week` },
        ]}
        onChange={(next) => {
          setWithin(next)
          setSpots(null)
        }}
      />
      <Button label={say`Find a place for it`} kind="act" disabled={!good} onPress={today ? look : act} />
      {put ? (
        <T role="status" kind="strong" className="text-lichen-text">
          {put}
        </T>
      ) : null}
      {today && spots !== null ? <Spots spots={spots} onTake={take} /> : null}
    </View>
  )
}

/** Where it could go into today, with what each place costs. */
function Spots({ spots, onTake }: { spots: readonly TodaySpotDto[]; onTake: (spot: TodaySpotDto) => void }) {
  if (spots.length === 0) return <T>{say`Nobody who may go there is on the road today and would be home before midnight.`}</T>
  return (
    <View role="list" aria-label={say`Places today`} className="gap-2">
      {spots.map((spot) => (
        <View key={`${spot.technicianId}/${spot.at}`} role="listitem" className="gap-1 border-t-2 border-line pt-2">
          <T kind="strong">{say`${spot.name}, ${spot.afterSite === null ? say`next` : say`after ${spot.afterSite}`}: there about ${timeOfDay(spot.arriveMin)}`}</T>
          <T kind="quiet">{priceOfSpot(spot)}</T>
          <View className="self-start">
            <Button label={say`Put it on ${spot.name.split(' ')[0] ?? ''}’s day`} onPress={() => onTake(spot)} />
          </View>
        </View>
      ))}
    </View>
  )
}

/** "12 min more driving, home 16:40, 20 min overtime; Rope walk 15 min late". */
export function priceOfSpot({ extraDriveMin, homeMin, overtimeMin, late }: TodaySpotDto): string {
  const parts = [
    extraDriveMin > 0 ? say`${duration(extraDriveMin)} more driving` : say`no more driving`,
    say`home ${timeOfDay(homeMin)}`,
    ...(overtimeMin > 0 ? [say`${duration(overtimeMin)} overtime`] : []),
  ]
  const missed = late.map(({ siteName, byMin }) => say`${siteName} ${duration(byMin)} after the hour it was promised`)
  return [parts.join(', '), ...missed].join('; ')
}

/** The firm's currency as its code, for sums of life. */
export const useCurrency = (): string => useMe().data?.firm.currency ?? ''
