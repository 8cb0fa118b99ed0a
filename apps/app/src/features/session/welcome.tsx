import type { LinkFor } from '@evenround/contract/begin'
import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import type { SignedInAnswer } from '@evenround/contract/second'
import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { useLocalSearchParams, useRouter } from 'expo-router'
import { useState } from 'react'
import { ScrollView, View } from 'react-native'
import { askPlain } from '../../data/api'
import { forgetAnswers } from '../../data/keep'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { PASSWORD_HINT } from '../../ui/password-hint'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { Mark } from './mark'
import { SecondStep } from './second-step'

/** What a link that is good once opens: a password is chosen, and its person is in. */
export function Welcome() {
  const { link = '' } = useLocalSearchParams<{ link?: string }>()
  const person = useQuery({
    queryKey: ['link', link],
    queryFn: () => askPlain<LinkFor>('/api/auth/links/ask', { token: link }),
    retry: false,
  })
  return (
    <ScrollView role="main" className="flex-1 bg-paper" contentContainerClassName="mx-auto w-full max-w-[420px] gap-5 px-5 py-10">
      <Mark size={52} />
      {person.data ? (
        <Choose link={link} person={person.data} />
      ) : person.error ? (
        <>
          <T kind="title" level={1}>
            {say`This link does not open`}
          </T>
          <Failed what={say`No password can be set`} error={person.error} onRetry={() => void person.refetch()} />
          <TextLink href="/sign-in" label={say`Sign in`} />
        </>
      ) : (
        <Waiting />
      )}
    </ScrollView>
  )
}

function Choose({ link, person }: { link: string; person: LinkFor }) {
  const router = useRouter()
  const [password, setPassword] = useState('')
  const [tried, setTried] = useState(false)
  const [busy, setBusy] = useState(false)
  const [refusal, setRefusal] = useState<string | null>(null)
  const [waits, setWaits] = useState(false)
  const enter = async (): Promise<void> => {
    await forgetAnswers()
    router.replace('/today')
  }
  const short = password.length < SHORTEST_PASSWORD
  const submit = async (): Promise<void> => {
    setTried(true)
    if (short) return
    setBusy(true)
    setRefusal(null)
    try {
      const { second } = await askPlain<SignedInAnswer>('/api/auth/links/use', { token: link, password })
      if (second) setWaits(true)
      else await enter()
    } catch (error) {
      setRefusal(error instanceof Error ? error.message : say`It did not work. Try again.`)
    }
    setBusy(false)
  }
  if (waits) return <SecondStep onIn={() => void enter()} onAgain={() => router.replace('/sign-in')} />
  return (
    <>
      <View className="gap-1">
        <T kind="title" level={1}>
          {person.kind === 'invitation' ? say`Welcome, ${person.name}` : say`A new password`}
        </T>
        <T>
          {person.kind === 'invitation'
            ? say`${person.firm} has made a sign-in for you: ${person.email}. Choose a password, and you are in.`
            : say`For ${person.email} at ${person.firm}. Every device signs in again with it.`}
        </T>
      </View>
      <Field
        label={say`Password`}
        value={password}
        onChangeText={setPassword}
        secureTextEntry
        autoComplete="new-password"
        hint={PASSWORD_HINT}
        error={tried && short ? say`At least ${SHORTEST_PASSWORD} characters` : undefined}
        onSubmitEditing={() => void submit()}
      />
      {refusal ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {refusal}
        </T>
      ) : null}
      <Button label={busy ? say`Saving …` : say`Save and sign in`} kind="act" size="big" disabled={busy} onPress={() => void submit()} />
    </>
  )
}
