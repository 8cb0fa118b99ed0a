import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Controller } from 'react-hook-form'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { useMe } from '../../data/queries'
import { addDayOff, bringHolidays, removeDayOff, type Times } from '../../data/times'
import { FormDay, FormEnd, FormField } from '../../parts/forms/form-fields'
import { day, requiredDay } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { Button } from '../../ui/button'
import { FilePick } from '../../ui/file-pick'
import { daySpan, longDay } from '../../ui/format'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

const SHOWN = 12
const schema = z
  .object({ who: z.string(), from: requiredDay(say`Choose the first day`), to: day(), why: z.string().check(z.trim()) })
  .check(z.refine(({ from, to }) => to === '' || to >= from, { path: ['to'], error: say`after the first day` }))

function NewDaysOff({ people, onSaved }: { people: Times['people']; onSaved: () => void }) {
  const { control, form, submit, problem, busy } = useSavedForm({
    schema,
    values: { who: '', from: '', to: '', why: '' },
    save: async ({ who, from, to, why }) => {
      await addDayOff({ personId: who === '' ? null : who, fromDay: from, toDay: to === '' ? from : to, why, source: 'typed' })
      form.reset()
      onSaved()
    },
  })
  return (
    <View className="gap-3">
      <Controller
        control={control}
        name="who"
        render={({ field }) => (
          <Select
            label={say`Who is off`}
            value={field.value}
            none={say`Everybody`}
            groups={[{ label: say`People`, options: people.map(({ personId, name }) => ({ value: personId, label: name })) }]}
            onChange={field.onChange}
          />
        )}
      />
      <View className="flex-row flex-wrap gap-3">
        <FormDay control={control} name="from" label={say`First day`} />
        <FormDay control={control} name="to" label={say`Last day`} hint={say`empty: one day`} />
        <FormField control={control} name="why" label={say`Why`} className="min-w-[160px] flex-1" />
      </View>
      <FormEnd problem={problem} busy={busy} act={say`Add the days`} onSubmit={submit} />
    </View>
  )
}

const WORDS = { typed: '', calendar: say` · from a calendar`, sick: say` · ill` } as const

/** Days nobody, or somebody, is on the road: typed, or brought in from a calendar file. */
export function DaysOff({ times, mayPlan }: { times: Times; mayPlan: boolean }) {
  const today = useMe().data?.today ?? ''
  const [told, setTold] = useState<{ text: string; bad: boolean } | null>(null)
  const run = async (act: () => Promise<string>): Promise<void> => {
    setTold(null)
    try {
      setTold({ text: await act(), bad: false })
    } catch (error) {
      setTold({ text: error instanceof Error ? error.message : say`It could not be done.`, bad: true })
    }
  }
  const nameOf = (id: string | null): string =>
    id === null ? say`Everybody` : (times.people.find(({ personId }) => personId === id)?.name ?? '')
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`Days off`}
      </T>
      {times.daysOff.length === 0 ? <T kind="quiet">{say`None ahead. Holidays can be imported from a calendar file.`}</T> : null}
      {times.daysOff.slice(0, SHOWN).map(({ id, personId, fromDay, toDay, why: reason, source }) => (
        <View key={id} className="min-h-[48px] flex-row items-center gap-2 border-b-2 border-line">
          <View className="flex-1">
            <T kind="strong">{fromDay === toDay ? longDay(fromDay) : daySpan(fromDay, toDay, today)}</T>
            <T kind="small">{`${nameOf(personId)}${reason ? ` · ${reason}` : ''}${WORDS[source]}`}</T>
          </View>
          {mayPlan ? (
            <Button
              label={say`Take back`}
              onPress={() =>
                void run(async () => {
                  await removeDayOff(id)
                  return say`Taken back.`
                })
              }
            />
          ) : null}
        </View>
      ))}
      {times.daysOff.length > SHOWN ? <T kind="quiet">{say`and ${times.daysOff.length - SHOWN} more later on`}</T> : null}
      {mayPlan ? (
        <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
          <NewDaysOff people={times.people} onSaved={() => setTold({ text: say`Added. The next plan keeps them free.`, bad: false })} />
          <FilePick
            label={say`Import holidays (iCalendar)`}
            accept=".ics,text/calendar"
            onFile={(file) =>
              void run(async () => {
                const { added, known } = await bringHolidays(await file.text())
                return say`${added} added, ${known} known already.`
              })
            }
          />
        </View>
      ) : null}
      {told ? (
        <T role="status" kind="strong" className={told.bad ? 'text-oxblood' : 'text-lichen-text'}>
          {told.text}
        </T>
      ) : null}
    </View>
  )
}
