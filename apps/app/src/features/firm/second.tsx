import type { SecondBegun, SecondDto } from '@evenround/contract/second'
import { many, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { api, ask, fieldError } from '../../data/api'
import { calledOff, makePasskey, passkeysWork } from '../../data/passkey'
import { queryClient, useMe } from '../../data/queries'
import { FormEnd, FormField } from '../../parts/forms/form-fields'
import { useSavedForm } from '../../parts/forms/saved-form'
import { Button } from '../../ui/button'
import { instantText } from '../../ui/format'
import { QrCode } from '../../ui/qr'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

const KEY = ['second']
/** What is open: nothing, or one of the acts, each behind the password. */
type Open = 'app' | 'codes' | 'off' | 'passkey' | null

const refresh = () => Promise.all([queryClient.invalidateQueries({ queryKey: KEY }), queryClient.invalidateQueries({ queryKey: ['me'] })])

/** What opens the door beside the password: an authenticator app with recovery codes, and passkeys. */
export function Second() {
  const second = useQuery({ queryKey: KEY, queryFn: () => ask(api.me.second.$get()) })
  const [open, setOpen] = useState<Open>(null)
  const close = (): void => {
    setOpen(null)
    void refresh()
  }
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`Second factor`}
      </T>
      {second.data ? (
        open === null ? (
          <Standing has={second.data} onOpen={setOpen} />
        ) : open === 'app' ? (
          <SetUpApp onClose={close} />
        ) : open === 'codes' ? (
          <NewCodes onClose={close} />
        ) : open === 'off' ? (
          <TurnOff onClose={close} />
        ) : (
          <AddPasskey onClose={close} />
        )
      ) : second.error ? (
        <Failed what={say`It cannot be shown`} error={second.error} onRetry={() => void second.refetch()} />
      ) : (
        <Waiting />
      )}
    </View>
  )
}

const leftText = (left: number): string => many(left, 'recovery code is left.', 'recovery codes are left.')

function Standing({ has, onOpen }: { has: SecondDto; onOpen: (open: Open) => void }) {
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const [problem, setProblem] = useState<string | null>(null)
  const none = !has.app && has.passkeys.length === 0
  const remove = async (id: string): Promise<void> => {
    setProblem(null)
    try {
      await ask(api.me.passkeys[':id'].$delete({ param: { id } }))
      await refresh()
    } catch (error) {
      setProblem(error instanceof Error ? error.message : say`It could not be removed.`)
    }
  }
  return (
    <View className="gap-3">
      {none && has.asked ? (
        <T kind="strong" className="text-copper-text">
          {say`Your firm asks its owners for a second factor. Set one up here; until then people, exports and settings stay closed to you.`}
        </T>
      ) : null}
      <T>
        {has.app
          ? say`Signing in with your password asks for a code from your authenticator app. ${leftText(has.codesLeft ?? 0)}`
          : say`With an authenticator app a stolen password alone opens nothing: signing in asks for a code from your phone as well.`}
      </T>
      <View className="flex-row flex-wrap gap-2">
        {has.app ? (
          <>
            <Button label={say`New recovery codes`} onPress={() => onOpen('codes')} />
            <Button label={say`Turn the app off`} onPress={() => onOpen('off')} />
          </>
        ) : (
          <Button label={say`Set up an authenticator app`} kind={none && has.asked ? 'act' : 'plain'} onPress={() => onOpen('app')} />
        )}
      </View>
      {has.passkeys.map(({ id, name, since }) => (
        <View key={id} className="min-h-[56px] flex-row items-center gap-3 border-t-2 border-line py-1">
          <View className="flex-1">
            <T kind="strong">{name}</T>
            <T kind="small">{say`passkey since ${instantText(since, zone)}`}</T>
          </View>
          <Button label={say`Remove`} hint={say`Remove the passkey ${name}`} onPress={() => void remove(id)} />
        </View>
      ))}
      {problem ? <Alert text={problem} /> : null}
      {passkeysWork() ? (
        <View className="items-start">
          <Button
            label={say`Add a passkey`}
            hint={say`Signs in with this device’s fingerprint, face or code`}
            onPress={() => onOpen('passkey')}
          />
        </View>
      ) : (
        <T kind="quiet">{say`Passkeys need the server’s own name and a secure connection; at this address the browser makes none.`}</T>
      )}
    </View>
  )
}

function Alert({ text }: { text: string }) {
  return (
    <T role="alert" kind="strong" className="text-oxblood">
      {text}
    </T>
  )
}

const passwordSchema = z.object({ password: z.string().check(z.minLength(1, say`Type your password`)), name: z.string().check(z.trim()) })

interface BehindProps {
  title: string
  act: string
  children?: ReactNode
  /** Asks for a name as well, under this label. */
  named?: string
  onGo: (password: string, name: string) => Promise<void>
  onClose: () => void
}

/** An act that asks for the password first; resolves the act's own answer to whatever comes next. */
function Behind({ title, act, children, named, onGo, onClose }: BehindProps) {
  const { control, submit, problem, busy } = useSavedForm({
    schema: passwordSchema,
    values: { password: '', name: '' },
    save: async ({ password, name }) => {
      try {
        await onGo(password, name)
      } catch (error) {
        throw calledOff(error) ? new Error(say`Cancelled: nothing was changed.`) : error
      }
    },
  })
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="strong">{title}</T>
      {children}
      {named ? <FormField control={control} name="name" label={named} placeholder={say`This device`} maxLength={60} /> : null}
      <FormField
        control={control}
        name="password"
        label={say`Your password`}
        secureTextEntry
        autoComplete="current-password"
        onSubmitEditing={submit}
      />
      <FormEnd problem={problem} busy={busy} act={act} onSubmit={submit} onCancel={onClose} />
    </View>
  )
}

function Codes({ codes }: { codes: readonly string[] }) {
  const [copied, setCopied] = useState(false)
  const copy = (): void => {
    navigator.clipboard.writeText(codes.join('\n')).then(
      () => setCopied(true),
      () => setCopied(false),
    )
  }
  return (
    <View className="gap-2">
      <T>{say`Recovery codes, for when the phone is lost. Each opens once. They are shown only now: keep them on paper.`}</T>
      <View role="list" aria-label={say`Recovery codes`} className="flex-row flex-wrap gap-x-6 gap-y-1">
        {codes.map((code) => (
          <T key={code} role="listitem" kind="strong" selectable>
            {code}
          </T>
        ))}
      </View>
      <View className="items-start">
        <Button label={copied ? say`Copied` : say`Copy the codes`} onPress={copy} />
      </View>
    </View>
  )
}

const QR_PX = 208

function SetUpApp({ onClose }: { onClose: () => void }) {
  const [begun, setBegun] = useState<SecondBegun | null>(null)
  if (begun !== null) return <ConfirmApp begun={begun} onClose={onClose} />
  return (
    <Behind
      title={say`Set up an authenticator app`}
      act={say`Go on`}
      onGo={async (password) => setBegun(await ask(api.me.second.$post({ json: { password } })))}
      onClose={onClose}
    />
  )
}

const codeSchema = z.object({ code: z.string().check(z.trim(), z.minLength(1, say`Type the code`)) })

/** The app is on once it shows a code that fits. */
function ConfirmApp({ begun, onClose }: { begun: SecondBegun; onClose: () => void }) {
  const { control, form, submit, problem, busy } = useSavedForm({
    schema: codeSchema,
    values: { code: '' },
    save: async (json) => {
      try {
        await ask(api.me.second.confirm.$post({ json }))
        onClose()
      } catch (error) {
        if (fieldError(error, 'code') === undefined) throw error
        form.setError('code', { message: say`This code does not fit. It changes every half minute.` })
      }
    },
  })
  const secret = new URL(begun.address).searchParams.get('secret') ?? ''
  return (
    <View className="gap-4 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="strong">{say`1. Let your authenticator app read this, or type the key into it`}</T>
      <QrCode text={begun.address} size={QR_PX} label={say`The key for your authenticator app, as a picture to scan`} />
      <T kind="small" selectable className="break-all">
        {secret.match(/.{1,4}/g)?.join(' ') ?? secret}
      </T>
      <a href={begun.address} className="block self-start">
        <T kind="label" className="underline">
          {say`Open it in the app on this phone`}
        </T>
      </a>
      <T kind="strong">{say`2. Keep the recovery codes`}</T>
      <Codes codes={begun.codes} />
      <T kind="strong">{say`3. Type the code that the app shows`}</T>
      <FormField
        control={control}
        name="code"
        label={say`Code, six digits`}
        inputMode="numeric"
        autoComplete="one-time-code"
        onSubmitEditing={submit}
      />
      <FormEnd problem={problem} busy={busy} act={say`Turn it on`} onSubmit={submit} onCancel={onClose} />
    </View>
  )
}

function NewCodes({ onClose }: { onClose: () => void }) {
  const [codes, setCodes] = useState<readonly string[] | null>(null)
  if (codes === null)
    return (
      <Behind
        title={say`New recovery codes`}
        act={say`Make new codes`}
        onGo={async (password) => setCodes((await ask(api.me.second.codes.$post({ json: { password } }))).codes)}
        onClose={onClose}
      >
        <T>{say`The old ones open nothing any more.`}</T>
      </Behind>
    )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <Codes codes={codes} />
      <View className="items-start">
        <Button label={say`I have kept them`} kind="act" onPress={onClose} />
      </View>
    </View>
  )
}

function TurnOff({ onClose }: { onClose: () => void }) {
  return (
    <Behind
      title={say`Turn the authenticator app off`}
      act={say`Turn it off`}
      onGo={async (password) => {
        await ask(api.me.second.off.$post({ json: { password } }))
        onClose()
      }}
      onClose={onClose}
    >
      <T>{say`From then on the password alone signs you in. The recovery codes open nothing any more.`}</T>
    </Behind>
  )
}

function AddPasskey({ onClose }: { onClose: () => void }) {
  return (
    <Behind
      title={say`Add a passkey`}
      act={say`Add it`}
      named={say`What to call it`}
      onGo={async (password, name) => {
        const options = await ask(api.me.passkeys.ask.$post({ json: { password } }))
        const response = await makePasskey(options)
        await ask(api.me.passkeys.$post({ json: { name: name || say`This device`, response } }))
        onClose()
      }}
      onClose={onClose}
    >
      <T>{say`This device signs you in by fingerprint, face or its own code, without a password.`}</T>
    </Behind>
  )
}
