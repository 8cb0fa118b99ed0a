import type { SiteDto } from '@evenround/contract/site'
import type { SiteContact } from '@evenround/core/firm'
import { formatPosition, parseQuantity, unitOf } from '@evenround/core/units'
import { PLACE_KINDS, type PlaceKind, type WaterSource } from '@evenround/core/wear'
import { say, sayFor } from '@evenround/core/words'
import { type ReactNode, useState } from 'react'
import { type Control, Controller } from 'react-hook-form'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { localDecimal } from '../../ui/locale'
import { PositionField, positionOf, positionProblem } from '../site/position-field'
import { PLACE_WORDS, SOURCE_WORDS } from '../site/words'
import { MoreContacts } from './more-contacts'
import { readWhole } from './read'

/** A site as it is typed. */
export interface SiteForm {
  name: string
  street: string
  postcode: string
  village: string
  island: string
  country: string
  position: string
  access: string
  contact: string
  phone: string
  email: string
  contacts: SiteContact[]
  people: string
  kind: PlaceKind
  source: WaterSource
  chlorine: string
}
export type SiteFieldsDto = Omit<SiteDto, 'id' | 'version'>

export const EMPTY_SITE: SiteForm = {
  name: '',
  street: '',
  postcode: '',
  village: '',
  island: '',
  country: '',
  position: '',
  access: '',
  contact: '',
  phone: '',
  email: '',
  contacts: [],
  people: '2',
  kind: 'home',
  source: 'municipal',
  chlorine: '',
}

export const siteToForm = ({ id: _, version: _version, people, chlorineMgL, lat, lon, ...rest }: SiteDto): SiteForm => ({
  ...rest,
  people: String(people),
  chlorine: chlorineMgL === null ? '' : String(chlorineMgL),
  position: lat === null || lon === null ? '' : formatPosition({ lat, lon }),
})

/** Typed text as a number; an empty field is null; anything else a problem at the field. */
function numberOf(text: string): number | null | 'bad' {
  const parsed = parseQuantity(text, { dimension: 'number', decimal: localDecimal() })
  if (parsed.ok) return parsed.value
  return parsed.reason === 'empty' ? null : 'bad'
}

type Problems = Partial<Record<keyof SiteForm, string>>

/** The typed site, or what is wrong with it by field. */
export function siteOfForm({ people, chlorine, position, ...rest }: SiteForm): { site: SiteFieldsDto } | { problems: Problems } {
  const count = numberOf(people)
  const mgL = numberOf(chlorine)
  const problems: Problems = {}
  if (rest.name.trim() === '') problems.name = say`Name is required`
  if (typeof count !== 'number' || !Number.isInteger(count) || count < 1) problems.people = say`A whole number of people, at least 1`
  if (mgL === 'bad' || (mgL !== null && (mgL < 0 || mgL > 20))) problems.chlorine = say`Between 0 and 20 mg/L, or empty when not measured`
  const wrong = positionProblem(position)
  if (wrong) problems.position = wrong
  if (rest.contacts.some(({ name }) => name.trim() === '')) problems.contacts = say`Each further contact needs a name`
  if (Object.keys(problems).length > 0) return { problems }
  const at = positionOf(position)
  return { site: { ...rest, people: Number(count), chlorineMgL: mgL as number | null, lat: at?.lat ?? null, lon: at?.lon ?? null } }
}

/** The same as a schema: what is wrong stands at its field. */
export const siteSchema = readWhole<SiteForm, SiteFieldsDto>((typed) => {
  const found = siteOfForm(typed)
  return 'site' in found ? { read: found.site } : found
})

/** The field of the form that a problem of the server's is about. */
export const formFieldOf = (path: string): keyof SiteForm =>
  path === 'chlorineMgL'
    ? 'chlorine'
    : path === 'lat' || path === 'lon'
      ? 'position'
      : path.startsWith('contacts')
        ? 'contacts'
        : (path as keyof SiteForm)

const SOURCES = Object.entries(SOURCE_WORDS).map(([value, label]) => ({ value: value as WaterSource, label }))
const KINDS = PLACE_KINDS.map((value) => ({ value, label: PLACE_WORDS[value] }))
const ADDRESS = [
  ['street', say`Street and number`, 120],
  ['postcode', say`Postcode`, 20],
  ['village', say`Town or village`, 80],
  ['island', say`Area or island`, 80],
  ['country', say`Country`, 60],
] as const
const PERSON = [
  ['contact', sayFor('person')`Contact`, 120, 'text'],
  ['phone', say`Telephone`, 40, 'tel'],
  ['email', 'E-mail', 254, 'email'],
] as const

interface SiteFieldsProps {
  // biome-ignore lint/suspicious/noExplicitAny: what a form is read as is nothing its fields know
  control: Control<SiteForm, unknown, any>
  /** At the door: what the work needs first, the rest on a tap. */
  brief?: boolean
  /** Stands below what says which site it is. */
  children?: ReactNode
}

/** All that is noted of a site, field by field; at a desk two beside one another. */
export function SiteFields({ control, brief = false, children }: SiteFieldsProps) {
  const units = useUnits()
  const [more, setMore] = useState(!brief)
  const line = (
    name: Exclude<keyof SiteForm, 'contacts'>,
    label: string,
    most: number,
    mode: 'text' | 'tel' | 'email' | 'numeric' | 'decimal' = 'text',
  ) => (
    <Controller
      key={name}
      control={control}
      name={name}
      render={({ field, fieldState }) => (
        <Field
          label={label}
          value={field.value}
          onChangeText={field.onChange}
          onBlur={field.onBlur}
          error={fieldState.error?.message}
          maxLength={most}
          inputMode={mode}
          autoCapitalize={mode === 'email' ? 'none' : 'sentences'}
          className="min-w-[220px] flex-1"
        />
      )}
    />
  )
  return (
    <View className="gap-4">
      {line('name', say`Name`, 120)}
      <Controller
        control={control}
        name="position"
        render={({ field, fieldState }) => (
          <PositionField label={say`Where it is`} value={field.value} onChange={field.onChange} error={fieldState.error?.message} />
        )}
      />
      {children}
      {brief ? line('phone', say`Telephone`, 40, 'tel') : null}
      <Controller
        control={control}
        name="kind"
        render={({ field }) => <Choice label={say`Kind of place`} value={field.value} options={KINDS} onChange={field.onChange} />}
      />
      <Controller
        control={control}
        name="source"
        render={({ field }) => <Choice label={say`Water comes from`} value={field.value} options={SOURCES} onChange={field.onChange} />}
      />
      {more ? (
        <>
          <View className="flex-row flex-wrap gap-3">{ADDRESS.map(([name, label, most]) => line(name, label, most))}</View>
          <View className="flex-row flex-wrap gap-3">
            {PERSON.filter(([name]) => !brief || name !== 'phone').map(([name, label, most, mode]) => line(name, label, most, mode))}
          </View>
          <Controller
            control={control}
            name="contacts"
            render={({ field, fieldState }) => (
              <MoreContacts contacts={field.value} onChange={field.onChange} error={fieldState.error?.message} />
            )}
          />
          <View className="flex-row flex-wrap gap-3">
            {line('people', say`People`, 6, 'numeric')}
            <Controller
              control={control}
              name="chlorine"
              render={({ field, fieldState }) => (
                <Field
                  label={say`Free chlorine of the supply`}
                  unit={unitOf('concentration', units).text}
                  value={field.value}
                  onChangeText={field.onChange}
                  inputMode="decimal"
                  error={fieldState.error?.message}
                  className="min-w-[220px] flex-1"
                />
              )}
            />
          </View>
          <Controller
            control={control}
            name="access"
            render={({ field }) => (
              <Field label={say`Access`} value={field.value} onChangeText={field.onChange} multiline maxLength={1000} />
            )}
          />
        </>
      ) : (
        <Button label={say`More: address, contact, people, access`} onPress={() => setMore(true)} />
      )}
    </View>
  )
}
