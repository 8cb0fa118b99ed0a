import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { askPlain, fieldError } from '../../data/api'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'

/** The code that a sign-in with a password still waits for. */
export function SecondStep({ onIn, onAgain }: { onIn: () => void; onAgain: () => void }) {
  const [kind, setKind] = useState<'app' | 'recovery'>('app')
  const [code, setCode] = useState('')
  const [busy, setBusy] = useState(false)
  const [refusal, setRefusal] = useState<unknown>(null)
  const enter = async (): Promise<void> => {
    setBusy(true)
    setRefusal(null)
    try {
      await askPlain('/api/auth/second', { code, kind })
      onIn()
    } catch (error) {
      setRefusal(error)
      setBusy(false)
    }
  }
  const app = kind === 'app'
  const field = fieldError(refusal, 'code')
  return (
    <View className="gap-4">
      <T kind="heading" level={2}>
        {app ? say`The code from your authenticator app` : say`One of your recovery codes`}
      </T>
      <Field
        label={app ? say`Code, six digits` : say`Recovery code`}
        value={code}
        onChangeText={setCode}
        autoFocus
        inputMode={app ? 'numeric' : 'text'}
        autoComplete="one-time-code"
        autoCapitalize="none"
        error={
          field === undefined ? undefined : say`This code ${field}.${app ? say` It changes every half minute.` : say` Each opens once.`}`
        }
        onSubmitEditing={() => void enter()}
      />
      {refusal instanceof Error && field === undefined ? (
        <T role="alert" kind="strong" className="text-oxblood">
          {refusal.message}
        </T>
      ) : null}
      <Button
        label={busy ? say`Signing in …` : say`Sign in`}
        kind="act"
        size="big"
        disabled={busy || code.trim() === ''}
        onPress={() => void enter()}
      />
      <Button
        label={app ? say`Use a recovery code` : say`Use the authenticator app`}
        onPress={() => {
          setKind(app ? 'recovery' : 'app')
          setCode('')
          setRefusal(null)
        }}
      />
      <Button label={say`Sign in as somebody else`} onPress={onAgain} />
      <T kind="quiet">{say`Phone and codes lost? An owner of your firm can take the second factor away under The firm, People.`}</T>
    </View>
  )
}
