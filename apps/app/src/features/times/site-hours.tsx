import type { SiteHours } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { saveSiteHours, useSiteHours } from '../../data/times'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { dayError } from '../../ui/day-error'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { timeOfDay, weekdayLetters } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { spansOf } from '../../ui/spans'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

const LONGEST_ACCESS_MIN = 240

/** When a site may be worked at: its hours, quiet hours between them, closed weekdays, closings of a season. */
export function SiteHoursPage({ siteId }: { siteId: string }) {
  const hours = useSiteHours(siteId)
  return (
    <Screen over={<BackLink href={`/sites/${siteId}`} label={say`The site`} />} title={say`Hours and closings`}>
      {hours.data ? (
        <HoursForm key={hours.data.version} hours={hours.data} />
      ) : hours.error ? (
        <Failed what={say`The hours cannot be shown`} error={hours.error} onRetry={() => void hours.refetch()} />
      ) : (
        <Waiting what={say`Loading the hours`} />
      )}
    </Screen>
  )
}

const spansText = (open: SiteHours['open']): string => open.map(([from, to]) => `${timeOfDay(from)}-${timeOfDay(to)}`).join(', ')

function HoursForm({ hours }: { hours: SiteHours }) {
  const [open, setOpen] = useState(spansText(hours.open))
  const [closed, setClosed] = useState(hours.closedWeekdays)
  const [access, setAccess] = useState(hours.accessMin === null ? '' : String(hours.accessMin))
  const [closings, setClosings] = useState(hours.closings)
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const [problem, setProblem] = useState<unknown>(null)
  const [saved, setSaved] = useState(false)
  const spans = spansOf(open)
  const accessMin = access.trim() === '' ? null : Number(access)
  const noAccess = accessMin !== null && !(Number.isInteger(accessMin) && accessMin >= 0 && accessMin <= LONGEST_ACCESS_MIN)
  const wrong = spans === null || noAccess
  const save = async (): Promise<void> => {
    if (spans === null) return
    setProblem(null)
    setSaved(false)
    try {
      await saveSiteHours({ ...hours, open: spans, closedWeekdays: closed, accessMin, closings })
      setSaved(true)
    } catch (error) {
      setProblem(error)
    }
  }
  return (
    <View className="gap-4">
      <Field
        label={say`Service hours`}
        value={open}
        onChangeText={setOpen}
        hint={say`Like 8-12, 13:30-16. Quiet hours lie between. Empty: any time.`}
        error={spans === null ? say`Times like 8-12, 13:30-16, one after another` : undefined}
      />
      <View className="gap-1">
        <T kind="label">{say`Closed on`}</T>
        <View className="flex-row flex-wrap gap-2">
          {weekdayLetters().map((name, index) => (
            <Button
              key={name}
              label={closed.includes(index + 1) ? `${name} ✓` : name}
              kind={closed.includes(index + 1) ? 'act' : 'plain'}
              onPress={() => setClosed(closed.includes(index + 1) ? closed.filter((one) => one !== index + 1) : [...closed, index + 1])}
            />
          ))}
        </View>
      </View>
      <Field
        label={say`Access takes`}
        unit={say`min`}
        value={access}
        onChangeText={setAccess}
        hint={say`Empty: as the firm has it`}
        error={noAccess ? say`whole minutes up to ${LONGEST_ACCESS_MIN}` : undefined}
        inputMode="numeric"
        className="w-56"
      />
      <View className="gap-2">
        <T kind="label">{say`Shut for a season`}</T>
        {closings.map(({ id, fromDay, toDay }) => (
          <View key={id} className="flex-row items-center gap-2">
            <T className="flex-1">{say`${fromDay} until ${toDay}, opening again that day`}</T>
            <Button label={say`Take out`} onPress={() => setClosings(closings.filter((one) => one.id !== id))} />
          </View>
        ))}
        <View className="flex-row flex-wrap items-end gap-2">
          <DayField label={say`Shuts on`} value={from} onChange={setFrom} error={dayError(from)} className="w-40" />
          <DayField label={say`Opens again on`} value={to} onChange={setTo} error={dayError(to, from, false)} className="w-40" />
          <Button
            label={say`Add`}
            disabled={from === '' || to === '' || !!dayError(from) || !!dayError(to, from, false)}
            onPress={() => {
              setClosings([...closings, { id: uuidv7(), fromDay: from, toDay: to }])
              setFrom('')
              setTo('')
            }}
          />
        </View>
      </View>
      {problem ? <Failed what={say`The hours were not saved`} error={problem} /> : null}
      {saved ? <T kind="quiet">{say`Saved. The next plan follows.`}</T> : null}
      <Button label={say`Save the hours`} kind="act" disabled={wrong} onPress={() => void save()} />
    </View>
  )
}
