import type { Setup, SetupState } from '@evenround/contract/begin'
import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import { UNIT_SETS, type UnitSet } from '@evenround/contract/unit-sets'
import { many, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { Redirect, useRouter } from 'expo-router'
import { type ReactNode, useState } from 'react'
import { Controller, useWatch } from 'react-hook-form'
import { ScrollView, View } from 'react-native'
import { getPlain, postPlain } from '../../data/api'
import { forgetAnswers } from '../../data/keep'
import { FormChoice, FormField, FormSelect, FormWeekdays } from '../../parts/forms/form-fields'
import { readWhole } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { PositionField, positionOf, positionProblem } from '../../parts/site/position-field'
import { Button } from '../../ui/button'
import { timeOfDay } from '../../ui/format'
import { minuteOf } from '../../ui/minute'
import { PASSWORD_HINT } from '../../ui/password-hint'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { Mark } from './mark'
import { SetUpByFile } from './set-up-file'

const SETUP_QUERY = { queryKey: ['setup'], queryFn: () => getPlain<SetupState>('/api/setup'), staleTime: Number.POSITIVE_INFINITY } as const

const UNIT_OPTIONS: readonly { value: UnitSet; label: string }[] = [
  { value: 'metric', label: say`litres, bar, °C` },
  { value: 'us', label: say`US gallons, psi, °F` },
  { value: 'imperial', label: say`imperial gallons, psi, °C` },
]

const zones = (): { label: string; options: { value: string; label: string }[] }[] => {
  const byArea = new Map<string, { value: string; label: string }[]>()
  // The device may call its zone by a newer name than the list has.
  const own = Intl.DateTimeFormat().resolvedOptions().timeZone
  for (const zone of [...new Set([own, ...Intl.supportedValuesOf('timeZone')])].sort()) {
    const [area = zone, ...rest] = zone.split('/')
    byArea.set(area, [...(byArea.get(area) ?? []), { value: zone, label: (rest.join(', ') || zone).replaceAll('_', ' ') }])
  }
  return [...byArea].map(([label, options]) => ({ label, options }))
}
const currencyName = new Intl.DisplayNames(undefined, { type: 'currency' })
const currencies = (): { label: string; options: { value: string; label: string }[] }[] => [
  {
    label: say`Currencies`,
    options: Intl.supportedValuesOf('currency').map((value) => ({ value, label: `${value} · ${currencyName.of(value)}` })),
  },
]

interface Form {
  code: string
  firm: string
  zone: string
  currency: string
  units: UnitSet
  name: string
  email: string
  password: string
  base: string
  baseAt: string
  weekdays: number[]
  from: string
  to: string
}
const EMPTY = (): Form => ({
  code: '',
  firm: '',
  zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
  currency: '',
  units: 'metric',
  name: '',
  email: '',
  password: '',
  base: say`Workshop`,
  baseAt: '',
  weekdays: [1, 2, 3, 4, 5],
  from: timeOfDay(8 * 60),
  to: timeOfDay(16 * 60 + 30),
})

const E_MAIL = /^\s*[^\s@]+@[^\s@]+\.[^\s@]+\s*$/

/** What is sent, or what the form still wants by field. */
const schema = readWhole<Form, Setup>((form) => {
  const [from, to] = [minuteOf(form.from), minuteOf(form.to)]
  const at = positionOf(form.baseAt)
  const wanted: Partial<Record<keyof Form, string | undefined>> = {
    code: form.code.trim() === '' ? say`Type the code that the start printed` : undefined,
    firm: form.firm.trim() === '' ? say`Name is required` : undefined,
    zone: form.zone === '' ? say`Choose a time zone` : undefined,
    currency: form.currency === '' ? say`Choose a currency` : undefined,
    name: form.name.trim() === '' ? say`Name is required` : undefined,
    email: E_MAIL.test(form.email) ? undefined : say`Type an e-mail, such as name@firm.example`,
    password: form.password.length < SHORTEST_PASSWORD ? say`At least ${SHORTEST_PASSWORD} characters` : undefined,
    base: form.baseAt.trim() !== '' && form.base.trim() === '' ? say`Name is required` : undefined,
    baseAt: positionProblem(form.baseAt),
    weekdays: form.weekdays.length === 0 ? say`Choose at least one day` : undefined,
    from: from === null ? say`like 8:00` : undefined,
    to: to === null ? say`like 16:30` : from !== null && to <= from ? say`after the beginning` : undefined,
  }
  const problems = Object.fromEntries(Object.entries(wanted).flatMap(([name, problem]) => (problem === undefined ? [] : [[name, problem]])))
  if (from === null || to === null || Object.keys(problems).length > 0) return { problems }
  return {
    read: {
      code: form.code,
      firm: { name: form.firm, timeZone: form.zone, currency: form.currency, ...UNIT_SETS[form.units] },
      owner: { name: form.name, email: form.email, password: form.password },
      base: at === null ? null : { name: form.base, ...at },
      week: { weekdays: form.weekdays, fromMin: from, toMin: to },
    },
  }
})

/** Where the server's problems belong on the form. */
const FIELD_OF: Readonly<Record<string, keyof Form>> = {
  'firm.name': 'firm',
  'firm.timeZone': 'zone',
  'firm.currency': 'currency',
  'owner.name': 'name',
  'owner.email': 'email',
  'owner.password': 'password',
  'base.name': 'base',
}

/** The first minute of a server: the firm, its owner, where and when work begins. */
export function SetUp() {
  const state = useQuery(SETUP_QUERY)
  if (state.data && !state.data.open) return <Redirect href="/sign-in" />
  return (
    <ScrollView role="main" className="flex-1 bg-paper" contentContainerClassName="mx-auto w-full max-w-[1120px] gap-6 px-5 py-8">
      <View className="flex-row items-center gap-3">
        <Mark size={52} />
        <View className="flex-1">
          <T kind="title" level={1}>
            {say`Set up your firm`}
          </T>
          <T kind="quiet">{say`A minute, once. All of it but the time zone and the currency can be changed later.`}</T>
        </View>
      </View>
      {state.data ? (
        <SetUpForm />
      ) : state.error ? (
        <Failed what={say`The server cannot be reached`} error={state.error} onRetry={() => void state.refetch()} />
      ) : (
        <Waiting />
      )}
    </ScrollView>
  )
}

function Part({ title, wide = false, children }: { title: string; wide?: boolean; children: ReactNode }) {
  return (
    <View className={`${wide ? 'min-w-full' : 'min-w-[300px]'} flex-1 gap-3 rounded-card border-2 border-line bg-sheet p-4`}>
      <T kind="heading" level={2}>
        {title}
      </T>
      {children}
    </View>
  )
}

function SetUpForm() {
  const router = useRouter()
  const [zoneGroups] = useState(zones)
  const [currencyGroups] = useState(currencies)
  const [values] = useState(EMPTY)
  const { control, form, submit, problem, busy } = useSavedForm({
    schema,
    values,
    fieldOf: (path) => FIELD_OF[path] ?? (path as keyof Form),
    save: async (read) => {
      await postPlain('/api/setup', read)
      await forgetAnswers()
      router.replace('/today')
    },
  })
  const { errors, submitCount } = form.formState
  const code = useWatch({ control, name: 'code' })
  const wanting = submitCount > 0 ? Object.keys(errors).length : 0
  return (
    <>
      <View className="flex-row flex-wrap gap-4">
        <Part title={say`The code of this server`} wide>
          <FormField
            control={control}
            name="code"
            label={say`Code`}
            hint={say`The start printed it; it also stands in the file it named. It keeps strangers from setting up your server.`}
            autoCapitalize="characters"
            autoCorrect={false}
          />
        </Part>
        <Part title={say`You, the owner`}>
          <FormField control={control} name="name" label={say`Your name`} autoComplete="name" maxLength={120} />
          <FormField control={control} name="email" label={say`E-mail`} inputMode="email" autoComplete="username" autoCapitalize="none" />
          <FormField
            control={control}
            name="password"
            label={say`Password`}
            secureTextEntry
            autoComplete="new-password"
            hint={PASSWORD_HINT}
          />
        </Part>
        <Part title={say`Your firm`}>
          <FormField control={control} name="firm" label={say`Name of the firm`} maxLength={120} />
          <View className="gap-1">
            <T kind="label">{say`Time zone`}</T>
            <FormSelect control={control} name="zone" label={say`Time zone`} none={say`Choose one`} groups={zoneGroups} />
          </View>
          <View className="gap-1">
            <T kind="label">{say`Currency`}</T>
            <FormSelect control={control} name="currency" label={say`Currency`} none={say`Choose one`} groups={currencyGroups} />
          </View>
          <FormChoice control={control} name="units" label={say`Units`} options={UNIT_OPTIONS} />
        </Part>
        <Part title={say`Where and when you start`}>
          <FormField control={control} name="base" label={say`Name of the base`} maxLength={80} />
          <Controller
            control={control}
            name="baseAt"
            render={({ field, fieldState }) => (
              <PositionField
                signedOut
                label={say`Where it is`}
                value={field.value}
                onChange={field.onChange}
                error={fieldState.error?.message}
                hint={say`Coordinates or an open location code; may be left for later`}
              />
            )}
          />
          <FormWeekdays control={control} name="weekdays" label={say`Working days`} />
          <View className="flex-row gap-3">
            <FormField control={control} name="from" label={say`From`} className="w-28" />
            <FormField control={control} name="to" label={say`To`} className="w-28" />
          </View>
        </Part>
      </View>
      {wanting > 0 ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {many(wanting, 'field needs attention: see above.', 'fields need attention: see above.')}
        </T>
      ) : problem ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <Button label={busy ? say`Setting up …` : say`Set up the firm`} kind="act" size="big" disabled={busy} onPress={submit} />
      <SetUpByFile code={code} />
    </>
  )
}
