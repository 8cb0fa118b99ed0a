import type { Forgot } from '@evenround/contract/begin'
import type { SignedInAnswer } from '@evenround/contract/second'
import { say } from '@evenround/core/words'
import { Redirect, useRouter } from 'expo-router'
import { useEffect, useState } from 'react'
import { Pressable, ScrollView, View } from 'react-native'
import { askPlain } from '../../data/api'
import { forgetAnswers } from '../../data/keep'
import { unsentOnDevice } from '../../data/outbox'
import { calledOff, passkeysWork, signInByPasskey } from '../../data/passkey'
import { useSignInHints } from '../../data/queries'
import { roleWord } from '../../parts/person/role-words'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'
import { Mark } from './mark'
import { SecondStep } from './second-step'

interface Form {
  email: string
  password: string
}
const EMAIL = /^\s*[^\s@]+@[^\s@]+\s*$/

/** What the two fields still want; the form library stays out of the first load for two fields' sake. */
const problemsOf = ({ email, password }: Form) => ({
  email: EMAIL.test(email) ? undefined : say`Type an e-mail, such as name@firm.example`,
  password: password === '' ? say`Type your password` : undefined,
})

/** E-mail, password, and on a demo the people who may sign in. */
export function SignIn() {
  const router = useRouter()
  const [form, setForm] = useState<Form>({ email: '', password: '' })
  const [tried, setTried] = useState(false)
  const [busy, setBusy] = useState(false)
  const [refusal, setRefusal] = useState<string | null>(null)
  const [forgotten, setForgotten] = useState(false)
  const hints = useSignInHints().data
  const wanting = tried ? problemsOf(form) : { email: undefined, password: undefined }
  const [waits, setWaits] = useState(false)
  const [unsent, setUnsent] = useState(0)
  useEffect(() => void unsentOnDevice().then(setUnsent), [])
  const enter = async (): Promise<void> => {
    await forgetAnswers()
    router.replace('/today')
  }
  const byPasskey = async (): Promise<void> => {
    setRefusal(null)
    try {
      await signInByPasskey()
      await enter()
    } catch (error) {
      if (!calledOff(error)) setRefusal(error instanceof Error ? error.message : say`Sign-in did not work.`)
    }
  }
  const signIn = async (person: Form): Promise<void> => {
    setRefusal(null)
    setBusy(true)
    try {
      const { second } = await askPlain<SignedInAnswer>('/api/auth/sign-in', { email: person.email, password: person.password })
      if (second) setWaits(true)
      else await enter()
    } catch (error) {
      setRefusal(error instanceof Error ? error.message : say`Sign-in did not work.`)
    }
    setBusy(false)
  }
  const submit = (): void => {
    setTried(true)
    const { email, password } = problemsOf(form)
    if (!email && !password) void signIn(form)
  }
  if (hints?.setUp) return <Redirect href="/set-up" />
  return (
    <ScrollView role="main" className="flex-1 bg-paper" contentContainerClassName="mx-auto w-full max-w-[420px] gap-5 px-5 py-10">
      <View className="flex-row items-center gap-3">
        <Mark size={52} />
        <View>
          <T kind="title" level={1}>
            {say`Even Round`}
          </T>
          <T kind="quiet">{say`What is due, in what order, and why`}</T>
        </View>
      </View>
      {waits ? (
        <SecondStep onIn={() => void enter()} onAgain={() => setWaits(false)} />
      ) : (
        <>
          <Field
            label={say`E-mail`}
            value={form.email}
            onChangeText={(email) => setForm((before) => ({ ...before, email }))}
            error={wanting.email}
            inputMode="email"
            autoComplete="username"
            autoCapitalize="none"
            onSubmitEditing={submit}
          />
          <Field
            label={say`Password`}
            value={form.password}
            onChangeText={(password) => setForm((before) => ({ ...before, password }))}
            error={wanting.password}
            secureTextEntry
            autoComplete="current-password"
            onSubmitEditing={submit}
          />
          {unsent > 0 ? (
            <T kind="label" role="status" className="text-copper-text">
              {say`${unsent} recorded on this device and not sent yet. Nothing is lost: it goes out once whoever recorded it signs in here again.`}
            </T>
          ) : null}
          {refusal ? (
            <T kind="strong" role="alert" className="text-oxblood">
              {refusal}
            </T>
          ) : null}
          <Button label={busy ? say`Signing in …` : say`Sign in`} kind="act" size="big" disabled={busy} onPress={submit} />
          {forgotten ? <Forgotten email={form.email} /> : <Button label={say`Forgot your password?`} onPress={() => setForgotten(true)} />}
          {passkeysWork() ? <Button label={say`Sign in with a passkey`} onPress={() => void byPasskey()} /> : null}
          <DemoPeople onChoose={(person) => void signIn(person)} />
        </>
      )}
    </ScrollView>
  )
}

/** A link by mail where the server can send one; else who to ask. */
function Forgotten({ email }: { email: string }) {
  const [said, setSaid] = useState<string | null>(null)
  const send = async (): Promise<void> => {
    try {
      const { mail } = await askPlain<Forgot>('/api/auth/forgot', { email })
      setSaid(
        mail
          ? say`If somebody signs in with ${email.trim()}, a link is on its way. It is good once, for an hour.`
          : say`This server sends no mail. Ask an owner of your firm: they make a link for you under The firm, People.`,
      )
    } catch (error) {
      setSaid(error instanceof Error ? error.message : say`It did not work. Try again.`)
    }
  }
  const typed = problemsOf({ email, password: 'x' }).email === undefined
  return (
    <View className="gap-2 rounded-card border-2 border-line p-4">
      <T>{typed ? say`A link to choose a new password, for ${email.trim()}:` : say`Type your e-mail above first.`}</T>
      <Button label={say`Send the link`} disabled={!typed} onPress={() => void send()} />
      {said ? <T role="status">{said}</T> : null}
    </View>
  )
}

/** Only a demo says who may sign in. */
function DemoPeople({ onChoose }: { onChoose: (person: Form) => void }) {
  const people = useSignInHints().data?.people ?? []
  const [first] = people
  if (!first) return null
  return (
    <View className="gap-2 border-t-2 border-line pt-4">
      <T kind="heading" level={2}>
        {say`Demo: Skellan Sound`}
      </T>
      <T kind="quiet">{say`Made-up people and places. Password for all: ${first.password}`}</T>
      {people.map((person) => (
        <Pressable
          key={person.email}
          role="button"
          aria-label={say`Sign in as ${person.name}`}
          onPress={() => onChoose(person)}
          className="min-h-[56px] justify-center rounded-card border-2 border-line bg-sheet px-4 py-2 active:bg-line"
        >
          <T kind="strong">{person.name}</T>
          <T kind="small">{`${roleWord(person.role)} · ${person.email}`}</T>
        </Pressable>
      ))}
    </View>
  )
}
