import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask, fieldError } from '../../data/api'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { PASSWORD_HINT } from '../../ui/password-hint'
import { T } from '../../ui/text'

/** Changes one's own password; every other device has to sign in again. */
export function PasswordForm() {
  const [open, setOpen] = useState(false)
  const [current, setCurrent] = useState('')
  const [next, setNext] = useState('')
  const [error, setError] = useState<unknown>(null)
  const [done, setDone] = useState(false)
  const short = next.length > 0 && next.length < SHORTEST_PASSWORD
  const change = async (): Promise<void> => {
    setError(null)
    try {
      await ask(api.me.password.$post({ json: { currentPassword: current, newPassword: next } }))
      setDone(true)
      setOpen(false)
      setCurrent('')
      setNext('')
    } catch (problem) {
      setError(problem)
    }
  }
  if (!open) {
    return (
      <View className="gap-2">
        {done ? (
          <T role="status" className="text-lichen-text">
            {say`The password is changed; other devices have to sign in again.`}
          </T>
        ) : null}
        <Button label={say`Change password`} onPress={() => setOpen(true)} />
      </View>
    )
  }
  const atField = fieldError(error, 'currentPassword') ?? fieldError(error, 'newPassword')
  return (
    <View className="gap-3">
      <Field
        label={say`Current password`}
        value={current}
        onChangeText={setCurrent}
        secureTextEntry
        autoComplete="current-password"
        error={fieldError(error, 'currentPassword')}
      />
      <Field
        label={say`New password`}
        value={next}
        onChangeText={setNext}
        secureTextEntry
        autoComplete="new-password"
        hint={PASSWORD_HINT}
        error={short ? PASSWORD_HINT : fieldError(error, 'newPassword')}
      />
      {error instanceof Error && !atField ? (
        <T role="alert" className="text-oxblood">
          {error.message}
        </T>
      ) : null}
      <View className="flex-row gap-3">
        <Button label={say`Cancel`} onPress={() => setOpen(false)} />
        <Button
          label={say`Change it`}
          kind="act"
          grow
          disabled={current === '' || next.length < SHORTEST_PASSWORD}
          onPress={() => void change()}
        />
      </View>
    </View>
  )
}
