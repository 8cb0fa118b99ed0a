import type { BookFilter } from '@evenround/contract/book'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { usePeople } from '../../data/queries'
import { useMay } from '../../data/rights'
import { OUTCOME_WORDS } from '../../parts/visit/outcomes'
import { Button } from '../../ui/button'
import { Tick } from '../../ui/choice'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

type Outcome = NonNullable<BookFilter['outcome']>
const OUTCOMES = Object.entries(OUTCOME_WORDS).map(([value, label]) => ({ value: value as Outcome, label }))

/** Without what asks for nothing. */
export const asked = (filter: BookFilter): BookFilter =>
  Object.fromEntries(Object.entries(filter).filter(([, value]) => value !== undefined && value !== '')) as BookFilter

/** The filters of the Book, folded away until somebody opens them. */
interface BookFilterBarProps {
  filter: BookFilter
  onChange: (next: BookFilter) => void
  /** There is room for them beside the list. */
  roomFor: boolean
}

export function BookFilterBar({ filter, onChange, roomFor }: BookFilterBarProps) {
  const active = Object.keys(asked(filter)).length
  // Null until somebody opened or hid them: then the width decides, also when it changes.
  const [chosen, setChosen] = useState<boolean | null>(null)
  const open = chosen ?? (roomFor || active > 0)
  const people = usePeople().data?.people ?? []
  const mayExport = useMay('export')
  const set = (patch: BookFilter): void => onChange(asked({ ...filter, ...patch }))
  const csv = new URLSearchParams(Object.entries(asked(filter)).map(([key, value]) => [key, String(value)])).toString()
  return (
    <View className="gap-3">
      <View className="flex-row flex-wrap items-center gap-2">
        <Button label={open ? say`Hide the filters` : say`Filter`} onPress={() => setChosen(!open)} />
        {active > 0 ? <Button label={say`Show all`} onPress={() => onChange({})} /> : null}
        {mayExport ? (
          <a href={`/api/book.csv${csv === '' ? '' : `?${csv}`}`} download className="block">
            <View className="min-h-[48px] items-center justify-center rounded-card border-2 border-line bg-sheet px-4 py-2">
              <T kind="strong">{say`CSV`}</T>
            </View>
          </a>
        ) : null}
      </View>
      {open ? (
        <View className="flex-row flex-wrap gap-3 rounded-card border-2 border-line bg-sheet p-4">
          <Field
            label={say`Site, system, person, part or note`}
            value={filter.text ?? ''}
            onChangeText={(text) => set({ text })}
            className="min-w-[240px] flex-1"
            maxLength={80}
          />
          <View className="min-w-[180px] flex-1 gap-1">
            <Select
              label={say`Person`}
              value={filter.person ?? ''}
              none={say`Everybody`}
              groups={[{ label: say`People`, options: people.map(({ id, name }) => ({ value: id, label: name })) }]}
              onChange={(person) => set({ person: person === '' ? undefined : person })}
            />
            <Select<Outcome>
              label={say`Outcome`}
              value={filter.outcome ?? ''}
              none={say`Any outcome`}
              groups={[{ label: say`Outcome`, options: OUTCOMES }]}
              onChange={(outcome) => set({ outcome: outcome === '' ? undefined : outcome })}
            />
          </View>
          <View className="flex-row flex-wrap gap-3">
            <DayField label={say`From`} value={filter.from ?? ''} onChange={(from) => set({ from })} />
            <DayField label={say`To`} value={filter.to ?? ''} onChange={(to) => set({ to })} />
          </View>
          <Tick label={say`With photos`} value={filter.photos === 'yes'} onChange={(on) => set({ photos: on ? 'yes' : undefined })} />
        </View>
      ) : null}
    </View>
  )
}
