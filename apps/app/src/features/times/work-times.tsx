import type { WorkTime } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Controller } from 'react-hook-form'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { useMe } from '../../data/queries'
import { saveWorkTime, type Times, useTimes } from '../../data/times'
import { FormEnd, FormField } from '../../parts/forms/form-fields'
import { optionalFigure, requiredFigure } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { BackLink } from '../../ui/back-link'
import { useDesk } from '../../ui/desk'
import { timeOfDay } from '../../ui/format'
import { localDecimal } from '../../ui/locale'
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
  const desk = useDesk()
  const rights = useMe().data?.rights ?? []
  const [mayPlan, mayChoose] = [rights.includes('plan-rounds'), rights.includes('change-schools')]
  return (
    <Screen over={<BackLink href="/firm" label={say`The firm`} />} title={say`Times and days off`} wide>
      {times.data ? (
        <View className={desk ? 'flex-row items-start gap-10' : 'gap-4'}>
          <View className={`gap-4 ${desk ? 'flex-1' : ''}`}>
            {times.data.people.map((person) => (
              <PersonTimes key={`${person.personId}${person.version}`} person={person} places={times.data.places} mayPlan={mayPlan} />
            ))}
            {mayPlan ? <NewBase places={times.data.places} /> : null}
            <TextLink href="/crossings" label={say`Ferries, causeways and bridges of the firm`} />
            <TextLink href="/driving-times" label={say`Driving times: routing server, and what your drives say`} />
          </View>
          <View className={`gap-6 ${desk ? 'flex-1' : ''}`}>
            <DaysOff times={times.data} mayPlan={mayPlan} />
            <TermsForm key={JSON.stringify(times.data.terms)} terms={times.data.terms} mayEdit={mayChoose} />
          </View>
        </View>
      ) : times.error ? (
        <Failed what={say`The times cannot be shown`} error={times.error} onRetry={() => void times.refetch()} />
      ) : (
        <Waiting what={say`Loading the times`} />
      )}
    </Screen>
  )
}

const clock = (message: string) =>
  z.pipe(
    z.string().check(z.refine((text) => minuteOf(text) !== null, message)),
    z.transform((text) => minuteOf(text) as number),
  )
const schema = z.object({
  weekdays: z.array(z.number()),
  fromMin: clock(say`like 8:00`),
  toMin: clock(say`like 16:00`),
  overtimeMin: requiredFigure({ least: 0, most: 1440, whole: true, message: say`whole minutes` }),
  vanKg: optionalFigure({ least: 0, above: true, most: 100_000, message: say`a number, or empty` }),
  base: z.string(),
})

function PersonTimes({ person, places, mayPlan }: { person: WorkTime; places: Times['places']; mayPlan: boolean }) {
  const [saved, setSaved] = useState(false)
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: {
      weekdays: person.weekdays,
      fromMin: timeOfDay(person.fromMin),
      toMin: timeOfDay(person.toMin),
      overtimeMin: String(person.overtimeMin),
      vanKg: person.vanKg === null ? '' : String(person.vanKg).replace('.', localDecimal()),
      base: person.base ?? '',
    },
    save: async ({ base, ...read }) => {
      setSaved(false)
      await saveWorkTime({ ...person, ...read, base: base === '' ? null : base })
      setSaved(true)
    },
  })
  const islands = [...new Set(places.map(({ island }) => island))]
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4" testID={`times-${person.name}`}>
      <T kind="heading" level={2}>
        {`${person.name}${person.van ? ` · ${person.van}` : ''}`}
      </T>
      <T kind="quiet">
        {person.skills.includes('wells') ? say`Licensed for wells` : say`Not licensed for wells; the skill is given under The firm, People`}
      </T>
      <Controller
        control={control}
        name="weekdays"
        render={({ field }) => (
          <Weekdays label={say`Working days of ${person.name}`} value={field.value} onChange={field.onChange} disabled={!mayPlan} />
        )}
      />
      <View className="flex-row flex-wrap gap-3">
        <FormField control={control} name="fromMin" label={say`From`} className="w-24" editable={mayPlan} />
        <FormField control={control} name="toMin" label={say`To`} className="w-24" editable={mayPlan} />
        <FormField
          control={control}
          name="overtimeMin"
          label={say`Overtime at most`}
          unit={say`min`}
          className="w-40"
          editable={mayPlan}
          inputMode="numeric"
        />
        <FormField
          control={control}
          name="vanKg"
          label={say`Van takes`}
          unit={say`kg`}
          className="w-36"
          editable={mayPlan}
          inputMode="decimal"
          hint={say`empty: no limit`}
        />
      </View>
      <View className="gap-1">
        <T kind="label">{say`Starts from`}</T>
        <Controller
          control={control}
          name="base"
          render={({ field }) => (
            <Select
              label={say`Where ${person.name} starts from`}
              value={field.value}
              none={say`Not on the round`}
              groups={islands.map((island) => ({
                label: island || say`Bases`,
                options: places.filter((place) => place.island === island).map(({ id, name }) => ({ value: id, label: name })),
              }))}
              onChange={(value) => mayPlan && field.onChange(value)}
            />
          )}
        />
      </View>
      {saved ? (
        <T role="status" kind="strong" className="text-lichen-text">
          {say`Saved. The next plan follows.`}
        </T>
      ) : null}
      {mayPlan ? <FormEnd problem={problem} busy={busy} act={say`Save the times`} onSubmit={submit} /> : null}
    </View>
  )
}
