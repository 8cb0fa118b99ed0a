import type { SiteHours } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Controller } from 'react-hook-form'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import * as z from 'zod/mini'
import { saveSiteHours, useSiteHours } from '../../data/times'
import { FormDay, FormEnd, FormField, FormWeekdays } from '../../parts/forms/form-fields'
import { optionalFigure, requiredDay } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Columns } from '../../ui/columns'
import { shortDay, timeOfDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { spansOf } from '../../ui/spans'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

const LONGEST_ACCESS_MIN = 240

/** When a site may be worked at: its hours, quiet hours between them, closed weekdays, closings of a season. */
export function SiteHoursPage({ siteId }: { siteId: string }) {
  const hours = useSiteHours(siteId)
  // Kept above the form, which begins anew with every version of the hours.
  const [saved, setSaved] = useState(false)
  return (
    <Screen over={<BackLink href={`/sites/${siteId}`} label={say`The site`} />} title={say`Hours and closings`} wide>
      {hours.data ? (
        <HoursForm key={hours.data.version} hours={hours.data} onSaved={setSaved} />
      ) : hours.error ? (
        <Failed what={say`The hours cannot be shown`} error={hours.error} onRetry={() => void hours.refetch()} />
      ) : (
        <Waiting what={say`Loading the hours`} />
      )}
      {saved ? <T kind="quiet" role="status">{say`Saved. The next plan follows.`}</T> : null}
    </Screen>
  )
}

const spansText = (open: SiteHours['open']): string => open.map(([from, to]) => `${timeOfDay(from)}-${timeOfDay(to)}`).join(', ')

const schema = z.object({
  open: z.pipe(
    z.string().check(z.refine((text) => spansOf(text) !== null, say`Times like 8-12, 13:30-16, one after another`)),
    z.transform((text) => spansOf(text) ?? []),
  ),
  closedWeekdays: z.array(z.number()),
  accessMin: optionalFigure({ least: 0, most: LONGEST_ACCESS_MIN, whole: true, message: say`whole minutes up to ${LONGEST_ACCESS_MIN}` }),
  closings: z.array(z.object({ id: z.string(), fromDay: z.string(), toDay: z.string() })),
})

function HoursForm({ hours, onSaved }: { hours: SiteHours; onSaved: (saved: boolean) => void }) {
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: {
      open: spansText(hours.open),
      closedWeekdays: hours.closedWeekdays,
      accessMin: hours.accessMin === null ? '' : String(hours.accessMin),
      closings: hours.closings,
    },
    version: hours.version,
    save: async (read, version) => {
      onSaved(false)
      await saveSiteHours({ siteId: hours.siteId, version, ...read })
      onSaved(true)
    },
  })
  return (
    <Columns>
      <View className="gap-4">
        <FormField
          control={control}
          name="open"
          label={say`Service hours`}
          hint={say`Like 8-12, 13:30-16. Quiet hours lie between. Empty: any time.`}
        />
        <FormWeekdays control={control} name="closedWeekdays" label={say`Closed on`} />
        <FormField
          control={control}
          name="accessMin"
          label={say`Access takes`}
          unit={say`min`}
          hint={say`Empty: as the firm has it`}
          inputMode="numeric"
          className="w-56"
        />
      </View>
      <View className="gap-4">
        <Controller
          control={control}
          name="closings"
          render={({ field: { value, onChange } }) => <Closings closings={value} onChange={onChange} />}
        />
        <FormEnd problem={problem} busy={busy} act={say`Save the hours`} onSubmit={submit} />
      </View>
    </Columns>
  )
}

const seasonSchema = z
  .object({ from: requiredDay(say`Choose the first day`), to: requiredDay(say`Choose the day it opens again`) })
  .check(z.refine(({ from, to }) => to > from, { path: ['to'], error: say`after the first day` }))

interface ClosingsProps {
  closings: SiteHours['closings']
  onChange: (closings: SiteHours['closings']) => void
}

/** Seasons in which a site is shut; what is added or taken out is saved with the hours. */
function Closings({ closings, onChange }: ClosingsProps) {
  const { control, form, submit } = useSavedForm({
    schema: seasonSchema,
    values: { from: '', to: '' },
    save: async ({ from, to }) => {
      onChange([...closings, { id: uuidv7(), fromDay: from, toDay: to }])
      form.reset()
    },
  })
  return (
    <View className="gap-2">
      <T kind="label">{say`Shut for a season`}</T>
      {closings.map(({ id, fromDay, toDay }) => (
        <View key={id} className="flex-row items-center gap-2">
          <T className="flex-1">{say`${shortDay(fromDay, '')} until ${shortDay(toDay, '')}, opening again that day`}</T>
          <Button label={say`Take out`} onPress={() => onChange(closings.filter((one) => one.id !== id))} />
        </View>
      ))}
      <View className="flex-row flex-wrap items-end gap-2">
        <FormDay control={control} name="from" label={say`Shuts on`} />
        <FormDay control={control} name="to" label={say`Opens again on`} />
        <Button label={say`Add`} onPress={submit} />
      </View>
    </View>
  )
}
