import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { api, ask } from '../../data/api'
import { FormEnd, FormField } from '../../parts/forms/form-fields'
import { useSavedForm } from '../../parts/forms/saved-form'
import { Button } from '../../ui/button'
import { PASSWORD_HINT } from '../../ui/password-hint'
import { T } from '../../ui/text'

const schema = z.object({
  currentPassword: z.string().check(z.minLength(1, say`Type your password`)),
  newPassword: z.string().check(z.minLength(SHORTEST_PASSWORD, PASSWORD_HINT)),
})

/** Changes one's own password; every other device has to sign in again. */
export function PasswordForm() {
  const [open, setOpen] = useState(false)
  const [done, setDone] = useState(false)
  if (open)
    return (
      <Passwords
        onDone={(changed) => {
          setDone(changed)
          setOpen(false)
        }}
      />
    )
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

function Passwords({ onDone }: { onDone: (changed: boolean) => void }) {
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: { currentPassword: '', newPassword: '' },
    save: async (json) => {
      await ask(api.me.password.$post({ json }))
      onDone(true)
    },
  })
  return (
    <View className="gap-3">
      <FormField control={control} name="currentPassword" label={say`Current password`} secureTextEntry autoComplete="current-password" />
      <FormField
        control={control}
        name="newPassword"
        label={say`New password`}
        secureTextEntry
        autoComplete="new-password"
        hint={PASSWORD_HINT}
      />
      <FormEnd problem={problem} busy={busy} act={say`Change it`} onSubmit={submit} onCancel={() => onDone(false)} />
    </View>
  )
}
