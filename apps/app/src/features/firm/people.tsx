import type { PersonDto } from '@evenround/contract/firm'
import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import type { Role } from '@evenround/core/firm'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { api, ask, fieldError } from '../../data/api'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'
import { PASSWORD_HINT } from './password-form'
import { SignIns } from './sign-ins'

const ROLES: readonly { value: Role; label: string }[] = [
  { value: 'technician', label: 'Technician' },
  { value: 'planner', label: 'Planner' },
  { value: 'owner', label: 'Owner' },
  { value: 'viewer', label: 'Viewer' },
]

const messageOf = (error: unknown): string | null =>
  error === null ? null : error instanceof Error ? error.message : 'It could not be saved.'

/** One person: role, licence, password reset, devices, on or off. */
export function PersonCard({ person, onChanged }: { person: PersonDto; onChanged: () => void }) {
  const [open, setOpen] = useState(false)
  const [role, setRole] = useState(person.role)
  const [wells, setWells] = useState(person.skills.includes('wells'))
  const [active, setActive] = useState(person.active)
  const [password, setPassword] = useState('')
  const [error, setError] = useState<unknown>(null)
  const [said, setSaid] = useState<string | null>(null)
  const attempt = async (work: () => Promise<unknown>, done: string): Promise<void> => {
    setError(null)
    setSaid(null)
    try {
      await work()
      setSaid(done)
    } catch (problem) {
      setError(problem)
    }
  }
  const { id, name, van, version } = person
  const save = () =>
    attempt(
      () =>
        ask(api.people[':id'].$put({ param: { id }, json: { version, name, van, role, skills: wells ? ['wells'] : [], active } })).then(
          onChanged,
        ),
      'Saved.',
    )
  const reset = () =>
    attempt(
      () => ask(api.people[':id'].password.$post({ param: { id }, json: { password } })).then(() => setPassword('')),
      'The password is reset; every device of this person has to sign in again.',
    )
  return (
    <View className="gap-3 border-t-2 border-line py-3">
      <View className="flex-row items-center gap-3">
        <View className="flex-1">
          <T kind="strong">{name}</T>
          <T kind="quiet">{`${person.role}${person.active ? '' : ', switched off'} · ${person.email}`}</T>
        </View>
        <Button label={open ? 'Close' : 'Change'} hint={`Change ${name}`} onPress={() => setOpen(!open)} />
      </View>
      {open ? (
        <View className="gap-4">
          <Choice label="Role" value={role} options={ROLES} onChange={setRole} />
          <Tick label="Licensed for wells" value={wells} onChange={setWells} />
          <Tick label="May sign in" hint="Off ends every sign-in at once" value={active} onChange={setActive} />
          <Button label="Save" kind="act" onPress={() => void save()} />
          <Field
            label="New password for them"
            value={password}
            onChangeText={setPassword}
            secureTextEntry
            autoComplete="new-password"
            hint={PASSWORD_HINT}
            error={fieldError(error, 'password')}
          />
          <Button label="Reset the password" disabled={password.length < SHORTEST_PASSWORD} onPress={() => void reset()} />
          {messageOf(error) ? (
            <T role="alert" className="text-oxblood">
              {messageOf(error)}
            </T>
          ) : null}
          {said ? (
            <T role="status" className="text-lichen-text">
              {said}
            </T>
          ) : null}
          <SignIns personId={id} />
        </View>
      ) : null}
    </View>
  )
}

/** A new person with a first password, told to them by word of mouth. */
export function NewPerson({ onDone }: { onDone: () => void }) {
  const [name, setName] = useState('')
  const [email, setEmail] = useState('')
  const [password, setPassword] = useState('')
  const [role, setRole] = useState<Role>('technician')
  const [error, setError] = useState<unknown>(null)
  const add = async (): Promise<void> => {
    setError(null)
    try {
      await ask(api.people.$post({ json: { id: uuidv7(), name, email, role, skills: [], van: null, password } }))
      onDone()
    } catch (problem) {
      setError(problem)
    }
  }
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <Field label="Name" value={name} onChangeText={setName} error={fieldError(error, 'name')} maxLength={120} />
      <Field
        label="E-mail"
        value={email}
        onChangeText={setEmail}
        error={fieldError(error, 'email')}
        inputMode="email"
        autoCapitalize="none"
      />
      <Field
        label="First password"
        value={password}
        onChangeText={setPassword}
        error={fieldError(error, 'password')}
        hint={PASSWORD_HINT}
        secureTextEntry
        autoComplete="new-password"
      />
      <Choice label="Role" value={role} options={ROLES} onChange={setRole} />
      {messageOf(error) ? (
        <T role="alert" className="text-oxblood">
          {messageOf(error)}
        </T>
      ) : null}
      <View className="flex-row gap-3">
        <Button label="Leave it" onPress={onDone} />
        <Button label="Add" kind="act" grow onPress={() => void add()} />
      </View>
    </View>
  )
}
