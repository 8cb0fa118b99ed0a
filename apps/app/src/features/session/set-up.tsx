import type { Setup, SetupState } from '@evenround/contract/begin'
import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import { UNIT_SETS, type UnitSet } from '@evenround/contract/unit-sets'
import { many, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { Redirect, useRouter } from 'expo-router'
import { type ReactNode, useState } from 'react'
import { ScrollView, View } from 'react-native'
import { ApiProblem, fieldError, getPlain, postPlain } from '../../data/api'
import { forgetAnswers } from '../../data/keep'
import { PositionField, positionOf, positionProblem } from '../../parts/site/position-field'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { timeOfDay } from '../../ui/format'
import { minuteOf } from '../../ui/minute'
import { PASSWORD_HINT } from '../../ui/password-hint'
import { Select } from '../../ui/select'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { Weekdays } from '../../ui/weekdays'
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

/** What the form still wants, by field; empty where it can be sent. */
function setupProblems(form: Form): Partial<Record<keyof Form, string>> {
  const [from, to] = [minuteOf(form.from), minuteOf(form.to)]
  const wanted: Partial<Record<keyof Form, string | undefined>> = {
    code: form.code.trim() === '' ? 'Type the code that the start printed' : undefined,
    firm: form.firm.trim() === '' ? say`Name is required` : undefined,
    zone: form.zone === '' ? say`Choose a time zone` : undefined,
    currency: form.currency === '' ? 'Choose a currency' : undefined,
    name: form.name.trim() === '' ? say`Name is required` : undefined,
    email: /^\s*[^\s@]+@[^\s@]+\.[^\s@]+\s*$/.test(form.email) ? undefined : say`Type an e-mail, such as name@firm.example`,
    password: form.password.length < SHORTEST_PASSWORD ? say`At least ${SHORTEST_PASSWORD} characters` : undefined,
    base: form.baseAt.trim() !== '' && form.base.trim() === '' ? say`Name is required` : undefined,
    baseAt: positionProblem(form.baseAt),
    weekdays: form.weekdays.length === 0 ? say`Choose at least one day` : undefined,
    from: from === null ? say`like 8:00` : undefined,
    to: to === null ? say`like 16:30` : from !== null && to <= from ? say`after the beginning` : undefined,
  }
  return Object.fromEntries(Object.entries(wanted).filter(([, problem]) => problem !== undefined))
}

function toSend(form: Form): Setup {
  const at = positionOf(form.baseAt)
  return {
    code: form.code,
    firm: { name: form.firm, timeZone: form.zone, currency: form.currency, ...UNIT_SETS[form.units] },
    owner: { name: form.name, email: form.email, password: form.password },
    base: at === null ? null : { name: form.base, ...at },
    week: { weekdays: form.weekdays, fromMin: minuteOf(form.from) ?? 0, toMin: minuteOf(form.to) ?? 0 },
  }
}

/** Where the server's problems belong on the form. */
const PATHS: readonly (readonly [keyof Form, string])[] = [
  ['code', 'code'],
  ['firm', 'firm.name'],
  ['zone', 'firm.timeZone'],
  ['currency', 'firm.currency'],
  ['name', 'owner.name'],
  ['email', 'owner.email'],
  ['password', 'owner.password'],
]

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

function Problem({ text }: { text: string | undefined }) {
  return text ? (
    <T kind="small" role="alert" className="text-oxblood">
      {text}
    </T>
  ) : null
}

function SetUpForm() {
  const router = useRouter()
  const [form, setForm] = useState(EMPTY)
  const [tried, setTried] = useState(false)
  const [busy, setBusy] = useState(false)
  const [refusal, setRefusal] = useState<unknown>(null)
  const [zoneGroups] = useState(zones)
  const [currencyGroups] = useState(currencies)
  const local = tried ? setupProblems(form) : {}
  const problem = (key: keyof Form): string | undefined => {
    const path = PATHS.find(([field]) => field === key)?.[1]
    return local[key] ?? (path === undefined ? undefined : fieldError(refusal, path))
  }
  const set = (patch: Partial<Form>): void => setForm((before) => ({ ...before, ...patch }))
  const line = (key: 'code' | 'firm' | 'name' | 'email' | 'password' | 'base' | 'from' | 'to') => ({
    value: form[key],
    onChangeText: (text: string) => set({ [key]: text }),
    error: problem(key),
  })
  const submit = async (): Promise<void> => {
    setTried(true)
    setRefusal(null)
    if (Object.keys(setupProblems(form)).length > 0) return
    setBusy(true)
    try {
      await postPlain('/api/setup', toSend(form))
      await forgetAnswers()
      router.replace('/today')
    } catch (error) {
      setRefusal(error)
    }
    setBusy(false)
  }
  const wanting = Object.keys(local).length
  return (
    <>
      <View className="flex-row flex-wrap gap-4">
        <Part title={say`The code of this server`} wide>
          <Field
            label={say`Code`}
            hint={say`The start printed it; it also stands in the file it named. It keeps strangers from setting up your server.`}
            autoCapitalize="characters"
            autoCorrect={false}
            {...line('code')}
          />
        </Part>
        <Part title={say`You, the owner`}>
          <Field label={say`Your name`} autoComplete="name" maxLength={120} {...line('name')} />
          <Field label={say`E-mail`} inputMode="email" autoComplete="username" autoCapitalize="none" {...line('email')} />
          <Field label={say`Password`} secureTextEntry autoComplete="new-password" hint={PASSWORD_HINT} {...line('password')} />
        </Part>
        <Part title={say`Your firm`}>
          <Field label={say`Name of the firm`} maxLength={120} {...line('firm')} />
          <View className="gap-1">
            <T kind="label">{say`Time zone`}</T>
            <Select
              label={say`Time zone`}
              value={form.zone}
              none={say`Choose one`}
              groups={zoneGroups}
              onChange={(zone) => set({ zone })}
            />
            <Problem text={problem('zone')} />
          </View>
          <View className="gap-1">
            <T kind="label">{say`Currency`}</T>
            <Select
              label={say`Currency`}
              value={form.currency}
              none={say`Choose one`}
              groups={currencyGroups}
              onChange={(currency) => set({ currency })}
            />
            <Problem text={problem('currency')} />
          </View>
          <Choice label={say`Units`} value={form.units} options={UNIT_OPTIONS} onChange={(units) => set({ units })} />
        </Part>
        <Part title={say`Where and when you start`}>
          <Field label={say`Name of the base`} maxLength={80} {...line('base')} />
          <PositionField
            signedOut
            label={say`Where it is`}
            value={form.baseAt}
            onChange={(baseAt) => set({ baseAt })}
            error={problem('baseAt')}
            hint={say`Coordinates or an open location code; may be left for later`}
          />
          <T kind="label">{say`Working days`}</T>
          <Weekdays label={say`Working days`} value={form.weekdays} onChange={(weekdays) => set({ weekdays })} />
          <Problem text={problem('weekdays')} />
          <View className="flex-row gap-3">
            <Field label={say`From`} className="w-28" {...line('from')} />
            <Field label={say`To`} className="w-28" {...line('to')} />
          </View>
        </Part>
      </View>
      {wanting > 0 ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {many(wanting, 'field needs attention: see above.', 'fields need attention: see above.')}
        </T>
      ) : refusal ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {refusal instanceof ApiProblem ? refusal.message : say`It could not be set up. Try again.`}
        </T>
      ) : null}
      <Button label={busy ? say`Setting up …` : say`Set up the firm`} kind="act" size="big" disabled={busy} onPress={() => void submit()} />
      <SetUpByFile code={form.code} />
    </>
  )
}
