import type { RoundPage } from '@evenround/contract/rounds'
import { addDays } from '@evenround/core/units'
import { useState } from 'react'
import { View } from 'react-native'
import { useMe, useSite, useSites } from '../../data/queries'
import { askForVisit, lookAnew, sayDayOff } from '../../data/round'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
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
        <Button label="Somebody is ill…" grow onPress={() => setOpen(open === 'ill' ? null : 'ill')} />
        <Button label="Somebody called…" grow onPress={() => setOpen(open === 'called' ? null : 'called')} />
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
      await sayDayOff({ personId: who, fromDay: day, toDay: day, why: 'ill', source: 'sick' })
      onChanged(await lookAnew())
    })
  }
  return (
    <View testID="ill" className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Choice
        label="Who"
        value={who}
        options={set.technicians.map(({ id, name }) => ({ value: id, label: name.split(' ')[0] ?? name }))}
        onChange={setWho}
      />
      <Choice
        label="Which day"
        value={day}
        options={days.map((one) => ({ value: one, label: one === set.today ? 'Today' : weekdayWord(one) }))}
        onChange={setDay}
      />
      <T kind="small">Their stops of that day are given new places, and as little else moves as can be. Nothing is published by it.</T>
      <Button label="Find other days" kind="act" disabled={who === null || day === null} onPress={act} />
    </View>
  )
}

const SOON_DAYS = 3

function Called({ page, onChanged, run }: EventProps) {
  const sites = useSites()
  const [siteId, setSiteId] = useState('')
  const [minutes, setMinutes] = useState('45')
  const [why, setWhy] = useState('')
  const [within, setWithin] = useState<string | null>(String(SOON_DAYS))
  const site = useSite(siteId, siteId !== '')
  const system = site.data?.systems[0]
  const workMin = Number(minutes)
  const good = system !== undefined && Number.isInteger(workMin) && workMin >= 5 && workMin <= 600 && why.trim() !== ''
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
        label="Which site"
        value={siteId}
        none="Choose a site"
        groups={[{ label: 'Sites', options: (sites.data?.sites ?? []).map(({ id, name }) => ({ value: id, label: name })) }]}
        onChange={setSiteId}
      />
      <Field label="What is the matter" value={why} onChangeText={setWhy} />
      <Field label="Work, minutes" value={minutes} onChangeText={setMinutes} inputMode="numeric" className="w-40" />
      <Choice
        label="Within"
        value={within}
        options={[
          { value: '2', label: 'two days' },
          { value: '3', label: 'three days' },
          { value: '7', label: 'a week' },
        ]}
        onChange={setWithin}
      />
      <Button label="Find a place for it" kind="act" disabled={!good} onPress={act} />
    </View>
  )
}

/** The firm's currency as its code, for sums of life. */
export const useCurrency = (): string => useMe().data?.firm.currency ?? ''
