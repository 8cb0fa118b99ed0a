import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useState } from 'react'
import { View } from 'react-native'
import { postPlain } from '../../data/api'
import { forgetAnswers } from '../../data/keep'
import { useOutbox } from '../../data/outbox'
import { useMe } from '../../data/queries'
import { type ThemeChoice, useTheme } from '../../data/theme'
import { roleWord } from '../../parts/person/role-words'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { useDesk } from '../../ui/desk'
import { Screen } from '../../ui/screen'
import { Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { LanguageChoice } from './language-choice'
import { PasswordForm } from './password-form'
import { Quarantine } from './quarantine'
import { Second } from './second'
import { SignIns } from './sign-ins'

const THEMES: readonly { value: ThemeChoice; label: string }[] = [
  { value: 'auto', label: say`As the device` },
  { value: 'light', label: say`Paper` },
  { value: 'cellar', label: say`Cellar` },
]

/** One's own settings, behind the initials. */
export function Me() {
  const me = useMe()
  const router = useRouter()
  const { choice, choose } = useTheme()
  const desk = useDesk()
  if (!me.data)
    return (
      <Screen title={say`Settings`}>
        <Waiting />
      </Screen>
    )
  const { person, firm, rights } = me.data
  return (
    <Screen title={person.name} over={firm.name} wide>
      <T kind="quiet">{`${person.email} · ${roleWord(person.role)}${person.skills.length > 0 ? say` · licensed for wells` : ''}${person.van ? say` · van ${person.van}` : ''}`}</T>
      {rights.includes('manage-people') || rights.includes('change-schools') ? (
        <Button label={say`The firm: methods and people`} onPress={() => router.push('/firm')} />
      ) : null}
      <View className={desk ? 'flex-row items-start gap-10' : 'gap-4'}>
        <View className={`gap-4 ${desk ? 'flex-1' : ''}`}>
          <Choice label={say`Light`} value={choice} options={THEMES} onChange={choose} />
          <LanguageChoice />
          <Quarantine />
          <PasswordForm />
          {desk ? <SignOut /> : null}
        </View>
        <View className={`gap-4 ${desk ? 'flex-1' : ''}`}>
          <Second />
          <SignIns personId={person.id} />
          {desk ? null : <SignOut />}
        </View>
      </View>
    </Screen>
  )
}

function SignOut() {
  const router = useRouter()
  const unsent = useOutbox(({ entries }) => entries.filter(({ state }) => state !== 'sent').length)
  const [asked, setAsked] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const signOut = async (): Promise<void> => {
    if (unsent > 0 && !asked) return setAsked(true)
    try {
      await postPlain('/api/auth/sign-out', {})
      useOutbox.setState({ owner: null, loaded: false, entries: [] })
      await forgetAnswers()
      router.replace('/sign-in')
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`Signing out did not work.`)
    }
  }
  return (
    <View className="gap-2">
      {asked ? (
        <T
          kind="strong"
          className="text-copper-text"
        >{say`${unsent} entries are not sent yet. They stay on this device and are sent when you sign in here again. Keep them as a file as well, above, or sign out all the same.`}</T>
      ) : null}
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <Button label={asked ? say`Sign out all the same` : say`Sign out`} kind="danger" onPress={() => void signOut()} />
    </View>
  )
}
