import type { YearPage, YearWhatIf } from '@evenround/contract/year-page'
import { addDays } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useSites } from '../../data/queries'
import { Button } from '../../ui/button'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { Segments } from '../../ui/segments'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

type Kind = YearWhatIf['kind']
/** Days of a winter timetable, as a first guess. */
const A_SEASON = 90

const WORDS = (): Record<Kind, string> => ({
  customers: say`More customers`,
  'person-more': say`One person more`,
  'person-less': say`One person fewer`,
  base: say`Another base`,
  contract: say`All by contract`,
  crossing: say`A crossing stops`,
})

const whole = (text: string, most: number): number | null => {
  const value = Number(text.trim())
  return Number.isInteger(value) && value >= 1 && value <= most ? value : null
}

/** What would the year be, if? Asked in a line or two, and planned anew. */
export function WhatIf({ page, onAsk, busy }: { page: YearPage; onAsk: (whatIf: YearWhatIf) => void; busy: boolean }) {
  const [kind, setKind] = useState<Kind>('customers')
  const [count, setCount] = useState('20')
  const [months, setMonths] = useState('12')
  const [site, setSite] = useState('')
  const [person, setPerson] = useState('')
  const [base, setBase] = useState('')
  const [crossing, setCrossing] = useState('')
  const [fromDay, setFromDay] = useState(page.today)
  const [toDay, setToDay] = useState(addDays(page.today, A_SEASON))
  const sites = useSites()
  const asked = ((): YearWhatIf | null => {
    if (kind === 'customers') {
      const customers = whole(count, 500)
      return customers === null || site === '' ? null : { kind, count: customers, likeSiteId: site }
    }
    if (kind === 'contract') {
      const every = whole(months, 36)
      return every === null ? null : { kind, months: every }
    }
    if (kind === 'crossing')
      return crossing === '' || fromDay === '' || toDay < fromDay ? null : { kind, crossingId: crossing, fromDay, toDay }
    if (kind === 'person-more') return base === '' ? null : { kind, base }
    if (kind === 'person-less') return person === '' ? null : { kind, personId: person }
    return person === '' || base === '' ? null : { kind, personId: person, base }
  })()
  const places = [{ label: say`Places`, options: page.places.map(({ id, name }) => ({ value: id, label: name })) }]
  const people = [{ label: say`People`, options: page.people.map(({ id, name }) => ({ value: id, label: name })) }]
  return (
    <View className="gap-3">
      <Segments label={say`What if`} value={kind} words={WORDS()} onChange={setKind} />
      {kind === 'customers' ? (
        <View className="gap-3">
          <Field
            label={say`How many`}
            value={count}
            onChangeText={setCount}
            inputMode="numeric"
            error={whole(count, 500) === null ? say`A whole number from 1 to 500` : undefined}
          />
          <Select
            label={say`Like which site, and near it`}
            value={site}
            none={say`Like which site, and near it`}
            groups={[
              {
                label: say`Sites`,
                options: (sites.data?.sites ?? []).map(({ id, name, village }) => ({ value: id, label: `${name} · ${village}` })),
              },
            ]}
            onChange={setSite}
          />
        </View>
      ) : null}
      {kind === 'contract' ? (
        <Field
          label={say`Months from change to change`}
          value={months}
          onChangeText={setMonths}
          inputMode="numeric"
          error={whole(months, 36) === null ? say`A whole number from 1 to 36` : undefined}
        />
      ) : null}
      {kind === 'person-less' || kind === 'base' ? (
        <Select label={say`Who`} value={person} none={say`Who`} groups={people} onChange={setPerson} />
      ) : null}
      {kind === 'person-more' || kind === 'base' ? (
        <Select label={say`From which place`} value={base} none={say`From which place`} groups={places} onChange={setBase} />
      ) : null}
      {kind === 'crossing' && page.crossings.length === 0 ? <T>{say`The firm takes no ferry, causeway or bridge.`}</T> : null}
      {kind === 'crossing' && page.crossings.length > 0 ? (
        <View className="gap-3">
          <Select
            label={say`Which crossing`}
            value={crossing}
            none={say`Which crossing`}
            groups={[{ label: say`Crossings`, options: page.crossings.map(({ id, name }) => ({ value: id, label: name })) }]}
            onChange={setCrossing}
          />
          <DayField label={say`Does not run from`} value={fromDay} onChange={setFromDay} />
          <DayField
            label={say`until`}
            value={toDay}
            onChange={setToDay}
            error={toDay !== '' && toDay < fromDay ? say`Not before it begins` : undefined}
          />
        </View>
      ) : null}
      <Button label={say`Plan this year`} disabled={asked === null || busy} onPress={() => asked && onAsk(asked)} />
    </View>
  )
}
