import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useMe } from '../../data/queries'
import { addDayOff, bringHolidays, removeDayOff, type Times } from '../../data/times'
import { Button } from '../../ui/button'
import { dayError } from '../../ui/day-error'
import { Field } from '../../ui/field'
import { FilePick } from '../../ui/file-pick'
import { daySpan, longDay } from '../../ui/format'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

const SHOWN = 12
const WORDS = { typed: '', calendar: say` · from a calendar`, sick: say` · ill` } as const

/** Days nobody, or somebody, is on the road: typed, or brought in from a calendar file. */
export function DaysOff({ times, mayPlan }: { times: Times; mayPlan: boolean }) {
  const today = useMe().data?.today ?? ''
  const [who, setWho] = useState('')
  const [from, setFrom] = useState('')
  const [to, setTo] = useState('')
  const [why, setWhy] = useState('')
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
  const last = to === '' ? from : to
  const good = from !== '' && !dayError(from) && !dayError(to, from)
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
          <Select
            label={say`Who is off`}
            value={who}
            none={say`Everybody`}
            groups={[{ label: say`People`, options: times.people.map(({ personId, name }) => ({ value: personId, label: name })) }]}
            onChange={setWho}
          />
          <View className="flex-row flex-wrap gap-3">
            <Field label={say`First day`} value={from} onChangeText={setFrom} hint="2026-12-24" error={dayError(from)} className="w-40" />
            <Field
              label={say`Last day`}
              value={to}
              onChangeText={setTo}
              hint={say`empty: one day`}
              error={dayError(to, from)}
              className="w-40"
            />
            <Field label={say`Why`} value={why} onChangeText={setWhy} className="min-w-[160px] flex-1" />
          </View>
          <Button
            label={say`Add the days`}
            kind="act"
            disabled={!good}
            onPress={() =>
              void run(async () => {
                await addDayOff({ personId: who === '' ? null : who, fromDay: from, toDay: last, why: why.trim(), source: 'typed' })
                setFrom('')
                setTo('')
                setWhy('')
                return say`Added. The next plan keeps them free.`
              })
            }
          />
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
