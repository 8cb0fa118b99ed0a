import type { WorkTime } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { fieldError } from '../../data/api'
import { useMe } from '../../data/queries'
import { saveWorkTime, type Times, useTimes } from '../../data/times'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { timeOfDay } from '../../ui/format'
import { minuteOf } from '../../ui/minute'
import { Screen } from '../../ui/screen'
import { Select } from '../../ui/select'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { Weekdays } from '../../ui/weekdays'
import { DaysOff } from './days-off'
import { NewBase } from './new-base'
import { TermsForm } from './terms-form'

/** Who is on the road when, where they start, what their van takes; days off and holidays; what the round is planned by. */
export function TimesScreen() {
  const times = useTimes()
  const rights = useMe().data?.rights ?? []
  const [mayPlan, mayChoose] = [rights.includes('plan-rounds'), rights.includes('change-schools')]
  return (
    <Screen over={<BackLink href="/firm" label={say`The firm`} />} title={say`Times and days off`}>
      {times.data ? (
        <>
          {times.data.people.map((person) => (
            <PersonTimes key={`${person.personId}${person.version}`} person={person} places={times.data.places} mayPlan={mayPlan} />
          ))}
          {mayPlan ? <NewBase places={times.data.places} /> : null}
          <TextLink href="/crossings" label={say`Ferries, causeways and bridges of the firm`} />
          <DaysOff times={times.data} mayPlan={mayPlan} />
          <TermsForm key={JSON.stringify(times.data.terms)} terms={times.data.terms} mayEdit={mayChoose} />
        </>
      ) : times.error ? (
        <Failed what={say`The times cannot be shown`} error={times.error} onRetry={() => void times.refetch()} />
      ) : (
        <Waiting what={say`Loading the times`} />
      )}
    </Screen>
  )
}

function PersonTimes({ person, places, mayPlan }: { person: WorkTime; places: Times['places']; mayPlan: boolean }) {
  const [weekdays, setWeekdays] = useState(person.weekdays)
  const [from, setFrom] = useState(timeOfDay(person.fromMin))
  const [to, setTo] = useState(timeOfDay(person.toMin))
  const [over, setOver] = useState(String(person.overtimeMin))
  const [kg, setKg] = useState(person.vanKg === null ? '' : String(person.vanKg))
  const [base, setBase] = useState(person.base ?? '')
  const [problem, setProblem] = useState<unknown>(null)
  const [saved, setSaved] = useState(false)
  const [fromMin, toMin, overtimeMin] = [minuteOf(from), minuteOf(to), Number(over)]
  const vanKg = kg.trim() === '' ? null : Number(kg.replace(',', '.'))
  const noOvertime = over.trim() === '' || !Number.isInteger(overtimeMin) || overtimeMin < 0
  const noKg = vanKg !== null && !(vanKg > 0)
  const wrong = fromMin === null || toMin === null || noOvertime || noKg
  const save = async (): Promise<void> => {
    if (fromMin === null || toMin === null) return
    setProblem(null)
    setSaved(false)
    try {
      await saveWorkTime({ ...person, weekdays, fromMin, toMin, overtimeMin, vanKg, base: base === '' ? null : base })
      setSaved(true)
    } catch (error) {
      setProblem(error)
    }
  }
  const islands = [...new Set(places.map(({ island }) => island))]
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4" testID={`times-${person.name}`}>
      <T kind="heading" level={2}>
        {`${person.name}${person.van ? ` · ${person.van}` : ''}`}
      </T>
      <T kind="quiet">
        {person.skills.includes('wells') ? say`Licensed for wells` : say`Not licensed for wells; the skill is given under The firm, People`}
      </T>
      <Weekdays label={say`Working days of ${person.name}`} value={weekdays} onChange={setWeekdays} disabled={!mayPlan} />
      <View className="flex-row flex-wrap gap-3">
        <Field
          label={say`From`}
          value={from}
          onChangeText={setFrom}
          className="w-24"
          editable={mayPlan}
          error={fromMin === null ? say`like 8:00` : undefined}
        />
        <Field
          label={say`To`}
          value={to}
          onChangeText={setTo}
          className="w-24"
          editable={mayPlan}
          error={toMin === null ? say`like 16:00` : fieldError(problem, 'toMin')}
        />
        <Field
          label={say`Overtime at most`}
          unit={say`min`}
          value={over}
          onChangeText={setOver}
          className="w-36"
          editable={mayPlan}
          inputMode="numeric"
          error={noOvertime ? say`whole minutes` : undefined}
        />
        <Field
          label={say`Van takes`}
          unit={say`kg`}
          value={kg}
          onChangeText={setKg}
          className="w-36"
          editable={mayPlan}
          inputMode="decimal"
          hint={say`empty: no limit`}
          error={noKg ? say`a number, or empty` : undefined}
        />
      </View>
      <View className="gap-1">
        <T kind="label">{say`Starts from`}</T>
        <Select
          label={say`Where ${person.name} starts from`}
          value={base}
          none={say`Not on the round`}
          groups={islands.map((island) => ({
            label: island || say`Bases`,
            options: places.filter((place) => place.island === island).map(({ id, name }) => ({ value: id, label: name })),
          }))}
          onChange={(value) => mayPlan && setBase(value)}
        />
      </View>
      {problem ? <Failed what={say`The times were not saved`} error={problem} /> : null}
      {saved ? <T kind="quiet">{say`Saved. The next plan follows.`}</T> : null}
      {mayPlan ? <Button label={say`Save the times`} kind="act" disabled={wrong} onPress={() => void save()} /> : null}
    </View>
  )
}
