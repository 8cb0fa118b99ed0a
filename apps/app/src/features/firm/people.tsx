import type { LinkDto } from '@evenround/contract/begin'
import type { PersonDto } from '@evenround/contract/firm'
import { SHORTEST_PASSWORD } from '@evenround/contract/protocol'
import type { Role } from '@evenround/core/firm'
import { localeNow, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import * as z from 'zod/mini'
import { api, ask, fieldError, problemText } from '../../data/api'
import { FormChoice, FormEnd, FormField } from '../../parts/forms/form-fields'
import { requiredLine } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { ROLE_WORDS, roleWord } from '../../parts/person/role-words'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { Field } from '../../ui/field'
import { PASSWORD_HINT } from '../../ui/password-hint'
import { T } from '../../ui/text'
import { SignIns } from './sign-ins'

const OFFERED: readonly Role[] = ['technician', 'planner', 'owner', 'viewer']
const ROLES = OFFERED.map((value) => ({ value, label: ROLE_WORDS[value] }))

const messageOf = (error: unknown): string | null => (error === null ? null : problemText(error))

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
  const [link, setLink] = useState<LinkDto | null>(null)
  const { id, name, van, version } = person
  const makeLink = () =>
    attempt(
      () => ask(api.people[':id'].links.$post({ param: { id }, json: { kind: 'reset' } })).then(setLink),
      say`The link is made; the old password holds until it is used.`,
    )
  const save = () =>
    attempt(
      () =>
        ask(api.people[':id'].$put({ param: { id }, json: { version, name, van, role, skills: wells ? ['wells'] : [], active } })).then(
          onChanged,
        ),
      say`Saved.`,
    )
  const reset = () =>
    attempt(
      () => ask(api.people[':id'].password.$post({ param: { id }, json: { password } })).then(() => setPassword('')),
      say`The password is reset; every device of this person has to sign in again.`,
    )
  const removeSecond = () =>
    attempt(
      () => ask(api.people[':id'].second.$delete({ param: { id } })),
      say`They sign in with the password alone now; every device of this person has to sign in again.`,
    )
  return (
    <View className="gap-3 border-t-2 border-line py-3">
      <View className="flex-row items-center gap-3">
        <View className="flex-1">
          <T kind="strong">{name}</T>
          <T kind="quiet">{`${roleWord(person.role)}${person.active ? '' : say`, switched off`} · ${person.email}`}</T>
        </View>
        <Button label={open ? say`Close` : say`Change`} hint={say`Change ${name}`} onPress={() => setOpen(!open)} />
      </View>
      {open ? (
        <View className="gap-4">
          <Choice label={say`Role`} value={role} options={ROLES} onChange={setRole} />
          <Tick label={say`Licensed for wells`} value={wells} onChange={setWells} />
          <Tick label={say`May sign in`} hint={say`Off ends every sign-in at once`} value={active} onChange={setActive} />
          <Button label={say`Save`} kind="act" onPress={() => void save()} />
          {link ? <LinkToHand link={link} /> : null}
          <Button label={say`Make a link for a new password`} onPress={() => void makeLink()} />
          <Field
            label={say`New password for them`}
            value={password}
            onChangeText={setPassword}
            secureTextEntry
            autoComplete="new-password"
            hint={PASSWORD_HINT}
            error={fieldError(error, 'password')}
          />
          <Button label={say`Reset the password`} disabled={password.length < SHORTEST_PASSWORD} onPress={() => void reset()} />
          <Button label={say`Remove their second factor`} hint={say`For who lost phone and codes`} onPress={() => void removeSecond()} />
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

/** A link that is good once, to be handed on; said again only by making a new one. */
function LinkToHand({ link }: { link: LinkDto }) {
  const [copied, setCopied] = useState(false)
  const address = `${window.location.origin}/welcome?link=${link.token}`
  const copy = (): void => {
    navigator.clipboard.writeText(address).then(
      () => setCopied(true),
      () => setCopied(false),
    )
  }
  return (
    <View role="status" className="gap-2 rounded-card border-2 border-lichen p-3">
      <T kind="strong">{link.mailedTo ? say`Sent to ${link.mailedTo}.` : say`Hand this link on; it is shown only now.`}</T>
      <T kind="small" selectable className="break-all">
        {address}
      </T>
      <T kind="small">{say`Good once, until ${new Date(link.expiresAt).toLocaleString(localeNow(), { dateStyle: 'medium', timeStyle: 'short' })}.`}</T>
      <Button label={copied ? say`Copied` : say`Copy the link`} onPress={copy} />
    </View>
  )
}

const invitation = z.object({
  name: requiredLine(120),
  email: z.string().check(z.trim(), z.email(say`Type an e-mail, such as name@firm.example`)),
  role: z.string(),
})

/** A new person: invited by a link, with which they choose their own password. */
export function NewPerson({ onDone }: { onDone: () => void }) {
  const [link, setLink] = useState<{ name: string; link: LinkDto } | null>(null)
  const { control, submit, problem, busy } = useSavedForm({
    schema: invitation,
    values: { name: '', email: '', role: 'technician' },
    save: async ({ role, ...read }) => {
      const json = { id: uuidv7(), ...read, role: role as Role, skills: [], van: null }
      setLink({ name: read.name, link: await ask(api.people.invitations.$post({ json })) })
    },
  })
  if (link)
    return (
      <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
        <T kind="heading" level={3}>{say`${link.name} is invited`}</T>
        <LinkToHand link={link.link} />
        <Button label={say`Done`} kind="act" onPress={onDone} />
      </View>
    )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <FormField control={control} name="name" label={say`Name`} maxLength={120} />
      <FormField control={control} name="email" label={say`E-mail`} inputMode="email" autoCapitalize="none" />
      <FormChoice control={control} name="role" label={say`Role`} options={ROLES} />
      <FormEnd problem={problem} busy={busy} act={say`Invite`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
