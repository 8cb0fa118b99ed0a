import type { SecondBegun, SecondDto } from '@evenround/contract/second'
import { many, say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { type ReactNode, useState } from 'react'
import { View } from 'react-native'
import { api, ask, fieldError } from '../../data/api'
import { calledOff, makePasskey, passkeysWork } from '../../data/passkey'
import { queryClient, useMe } from '../../data/queries'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
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

/** An act that asks for the password first; resolves the act's own answer to whatever comes next. */
function Behind({
  title,
  act,
  children,
  onGo,
  onClose,
}: {
  title: string
  act: string
  children?: ReactNode
  onGo: (password: string) => Promise<void>
  onClose: () => void
}) {
  const [password, setPassword] = useState('')
  const [busy, setBusy] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const go = async (): Promise<void> => {
    setBusy(true)
    setError(null)
    try {
      await onGo(password)
    } catch (problem) {
      setError(calledOff(problem) ? new Error('Cancelled: nothing was changed.') : problem)
      setBusy(false)
    }
  }
  const field = fieldError(error, 'password')
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="strong">{title}</T>
      {children}
      <Field
        label={say`Your password`}
        value={password}
        onChangeText={setPassword}
        secureTextEntry
        autoComplete="current-password"
        error={field}
        onSubmitEditing={() => void go()}
      />
      {error instanceof Error && field === undefined ? <Alert text={error.message} /> : null}
      <View className="flex-row flex-wrap gap-2">
        <Button label={act} kind="act" disabled={busy || password === ''} onPress={() => void go()} />
        <Button label={say`Cancel`} onPress={onClose} />
      </View>
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
  const [code, setCode] = useState('')
  const [error, setError] = useState<unknown>(null)
  if (begun === null)
    return (
      <Behind
        title={say`Set up an authenticator app`}
        act={say`Go on`}
        onGo={async (password) => setBegun(await ask(api.me.second.$post({ json: { password } })))}
        onClose={onClose}
      />
    )
  const confirm = async (): Promise<void> => {
    setError(null)
    try {
      await ask(api.me.second.confirm.$post({ json: { code } }))
      onClose()
    } catch (problem) {
      setError(problem)
    }
  }
  const secret = new URL(begun.address).searchParams.get('secret') ?? ''
  const field = fieldError(error, 'code')
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
      <Field
        label={say`Code, six digits`}
        value={code}
        onChangeText={setCode}
        inputMode="numeric"
        autoComplete="one-time-code"
        error={field === undefined ? undefined : say`This code ${field}. It changes every half minute.`}
        onSubmitEditing={() => void confirm()}
      />
      {error instanceof Error && field === undefined ? <Alert text={error.message} /> : null}
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Turn it on`} kind="act" disabled={code.trim() === ''} onPress={() => void confirm()} />
        <Button label={say`Cancel`} onPress={onClose} />
      </View>
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
  const [name, setName] = useState('')
  return (
    <Behind
      title={say`Add a passkey`}
      act={say`Add it`}
      onGo={async (password) => {
        const options = await ask(api.me.passkeys.ask.$post({ json: { password } }))
        const response = await makePasskey(options)
        await ask(api.me.passkeys.$post({ json: { name: name.trim() || say`This device`, response } }))
        onClose()
      }}
      onClose={onClose}
    >
      <T>{say`This device signs you in by fingerprint, face or its own code, without a password.`}</T>
      <Field label={say`What to call it`} value={name} onChangeText={setName} placeholder={say`This device`} />
    </Behind>
  )
}
