import { askPlain } from './api'

/** Browsers make passkeys for names of hosts only, and only over TLS or on the machine itself. */
export const passkeysWork = (): boolean =>
  typeof window !== 'undefined' && window.isSecureContext && 'PublicKeyCredential' in window && !/^[\d.]+$|:/.test(window.location.hostname)

const browser = () => import('@simplewebauthn/browser')

/** Signs in with a passkey of this device; throws where it was called off or opens nothing. */
export async function signInByPasskey(): Promise<void> {
  const optionsJSON = await askPlain<never>('/api/auth/passkey/ask', {})
  const response = await (await browser()).startAuthentication({ optionsJSON })
  await askPlain('/api/auth/passkey', { response })
}

/** Makes a passkey on this device for what the server asked. */
export async function makePasskey(options: Record<string, unknown>): Promise<Record<string, unknown>> {
  const made = await (await browser()).startRegistration({ optionsJSON: options as never })
  return { ...made }
}

/** What a browser says when nobody touched the sensor. */
export const calledOff = (error: unknown): boolean =>
  error instanceof Error && /NotAllowed|AbortError|cancel/i.test(`${error.name} ${error.message}`)
