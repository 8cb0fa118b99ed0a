import type { SiteDto } from '@evenround/contract/site'
import { parseQuantity, unitOf } from '@evenround/core/units'
import { PLACE_KINDS, type PlaceKind, type WaterSource } from '@evenround/core/wear'
import { useState } from 'react'
import { Controller, useForm } from 'react-hook-form'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { localDecimal } from '../../ui/locale'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { PLACE_WORDS, SOURCE_WORDS } from '../site/words'

interface Form {
  name: string
  village: string
  island: string
  access: string
  contact: string
  phone: string
  people: string
  kind: PlaceKind
  source: WaterSource
  chlorine: string
}

const SOURCES = Object.entries(SOURCE_WORDS).map(([value, label]) => ({ value: value as WaterSource, label }))
const KINDS = PLACE_KINDS.map((value) => ({ value, label: PLACE_WORDS[value] }))
const LINES = [
  ['name', 'Name', 120],
  ['village', 'Village', 80],
  ['island', 'Island', 80],
  ['contact', 'Who to ask for', 120],
  ['phone', 'Telephone', 40],
] as const

const toForm = ({ name, village, island, access, contact, phone, people, kind, source, chlorineMgL }: SiteDto): Form => ({
  name,
  village,
  island,
  access,
  contact,
  phone,
  people: String(people),
  kind,
  source,
  chlorine: chlorineMgL === null ? '' : String(chlorineMgL),
})

/** Typed text as a number; an empty field is null; anything else a problem at the field. */
function numberOf(text: string): number | null | 'bad' {
  const parsed = parseQuantity(text, { dimension: 'number', decimal: localDecimal() })
  if (parsed.ok) return parsed.value
  return parsed.reason === 'empty' ? null : 'bad'
}

/** Edits a site; an edit made on an old version shows both sides instead of overwriting. */
export function SiteForm({ site, onDone }: { site: SiteDto; onDone: () => void }) {
  const units = useUnits()
  const { control, handleSubmit, setError, reset, formState } = useForm<Form>({ defaultValues: toForm(site) })
  const [version, setVersion] = useState(site.version)
  const [theirs, setTheirs] = useState<SiteDto | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const save = handleSubmit(async ({ people, chlorine, ...rest }) => {
    setProblem(null)
    const count = numberOf(people)
    const mgL = numberOf(chlorine)
    if (typeof count !== 'number' || !Number.isInteger(count) || count < 1)
      return setError('people', { message: 'A whole number of people, at least 1' })
    if (mgL === 'bad' || (mgL !== null && (mgL < 0 || mgL > 20)))
      return setError('chlorine', { message: 'Between 0 and 20 mg/L, or empty when not measured' })
    try {
      await ask(api.sites[':id'].$put({ param: { id: site.id }, json: { version, ...rest, people: count, chlorineMgL: mgL } }))
      await Promise.all([KEY.site(site.id), KEY.sites, KEY.today].map((queryKey) => queryClient.invalidateQueries({ queryKey })))
      onDone()
    } catch (error) {
      if (error instanceof ApiProblem && error.code === 'STALE_VERSION') return setTheirs(error.current as SiteDto)
      if (error instanceof ApiProblem)
        for (const { path, message } of error.fields) setError((path === 'chlorineMgL' ? 'chlorine' : path) as keyof Form, { message })
      setProblem(error instanceof Error ? error.message : 'It could not be saved.')
    }
  })
  return (
    <View className="max-w-[620px] gap-4">
      {theirs ? (
        <Notice tone="look" title="Somebody changed this site meanwhile" live>
          <T>{`Now: ${theirs.name}, ${theirs.village}, ${theirs.island}; ${theirs.people} people. ${theirs.access}`}</T>
          <View className="flex-row flex-wrap gap-2 pt-2">
            <Button
              label="Take theirs"
              onPress={() => {
                reset(toForm(theirs))
                setVersion(theirs.version)
                setTheirs(null)
              }}
            />
            <Button
              label="Keep mine and save again"
              onPress={() => {
                setVersion(theirs.version)
                setTheirs(null)
              }}
            />
          </View>
        </Notice>
      ) : null}
      {LINES.map(([name, label, most]) => (
        <Controller
          key={name}
          control={control}
          name={name}
          rules={name === 'contact' || name === 'phone' ? {} : { validate: (value) => value.trim() !== '' || 'This is wanted' }}
          render={({ field, fieldState }) => (
            <Field
              label={label}
              value={field.value}
              onChangeText={field.onChange}
              onBlur={field.onBlur}
              error={fieldState.error?.message}
              maxLength={most}
            />
          )}
        />
      ))}
      <Controller
        control={control}
        name="access"
        render={({ field }) => <Field label="Getting in" value={field.value} onChangeText={field.onChange} multiline maxLength={1000} />}
      />
      <Controller
        control={control}
        name="people"
        render={({ field, fieldState }) => (
          <Field label="People" value={field.value} onChangeText={field.onChange} inputMode="numeric" error={fieldState.error?.message} />
        )}
      />
      <Controller
        control={control}
        name="kind"
        render={({ field }) => <Choice label="Kind of place" value={field.value} options={KINDS} onChange={field.onChange} />}
      />
      <Controller
        control={control}
        name="source"
        render={({ field }) => <Choice label="Water comes from" value={field.value} options={SOURCES} onChange={field.onChange} />}
      />
      <Controller
        control={control}
        name="chlorine"
        render={({ field, fieldState }) => (
          <Field
            label="Free chlorine of the supply"
            unit={unitOf('concentration', units).text}
            value={field.value}
            onChangeText={field.onChange}
            inputMode="decimal"
            error={fieldState.error?.message}
          />
        )}
      />
      {problem ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <View className="flex-row gap-3">
        <Button label="Leave it" onPress={onDone} />
        <Button
          label={formState.isSubmitting ? 'Saving …' : 'Save'}
          kind="act"
          grow
          disabled={formState.isSubmitting}
          onPress={() => void save()}
        />
      </View>
    </View>
  )
}
