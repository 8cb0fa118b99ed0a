import type { ApiErrorBody, ErrorCode, FieldProblem } from '@evenround/contract/errors'
import { say } from '@evenround/core/words'
import type { ApiType } from '@evenround/server/api-type'
import { type ClientResponse, hc } from 'hono/client'
import { deviceLanguage } from './language'

/** A refusal of the server, or no network at all, in words for the person. */
export class ApiProblem extends Error {
  constructor(
    readonly code: ErrorCode | 'OFFLINE',
    message: string,
    readonly retryable: boolean,
    readonly fields: readonly FieldProblem[] = [],
    /** With STALE_VERSION: what stands on the server now. */
    readonly current: unknown = undefined,
  ) {
    super(message)
    this.name = 'ApiProblem'
  }
}

/** Why something was not saved, in words. */
export const problemText = (error: unknown): string => (error instanceof Error ? error.message : say`It could not be saved.`)

type Good<R> = Extract<R, { status: 200 }> extends ClientResponse<infer T, 200, string> ? T : never

/** What this device keeps and sends later; anything else that was to be changed is not. */
const KEPT = /^\/api\/(facts|photos)\b/

let away = false
const whenBack = new Set<() => void>()

/** Calls when the server answers again after it did not: what waits to be sent need not wait for its next try. */
export const onServerBack = (then: () => void): void => void whenBack.add(then)

function noteAnswer(good: boolean): void {
  const back = away && good
  away = !good
  if (back) for (const then of whenBack) then()
}

/** What the server says is said in the device's language. */
const spoken = (init: RequestInit = {}): RequestInit => {
  const headers = new Headers(init.headers)
  headers.set('accept-language', deviceLanguage())
  return { ...init, headers }
}

/** `fetch`; where it finds no network the problem says what becomes of what was done. */
async function reach(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  try {
    const response = await fetch(input, spoken(init))
    noteAnswer(response.status < 500)
    return response
  } catch {
    noteAnswer(false)
    const path = new URL(typeof input === 'object' && 'url' in input ? input.url : input, window.location.href).pathname
    const lost = (init?.method ?? 'GET') !== 'GET' && !KEPT.test(path)
    const then = lost ? say`Nothing was changed: try again when there is one.` : say`What you do is kept on this device and sent later.`
    throw new ApiProblem('OFFLINE', say`No connection to the server. ${then}`, true)
  }
}

/** The typed client: paths, inputs and answers come from the server's own routes. */
export const api = hc<ApiType>('/', { fetch: reach }).api

async function problemOf(response: { json: () => Promise<unknown>; status: number }): Promise<ApiProblem> {
  try {
    const { error } = (await response.json()) as ApiErrorBody
    return new ApiProblem(error.code, error.message, error.retryable, error.fields, error.current)
  } catch {
    return new ApiProblem('INTERNAL', say`The server answered with ${response.status} and no reason. Try again.`, true)
  }
}

/** Awaits a call of the client: its answer, or an ApiProblem. */
export async function ask<R extends ClientResponse<unknown, number, string>>(call: Promise<R>): Promise<Good<R>> {
  const response = await call
  if (!response.ok) throw await problemOf(response)
  return (await response.json()) as Good<R>
}

/** What is asked signed out stands before the typed routes. */
export async function askPlain<T>(path: string, input: unknown): Promise<T> {
  const response = await reach(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(input) })
  if (!response.ok) throw await problemOf(response)
  return (await response.json()) as T
}

/** Sends a file as it is; the answer may take as long as the file is large. */
export async function sendFile<T>(path: string, file: File, headers: Record<string, string>): Promise<T> {
  const response = await reach(path, { method: 'POST', headers: { 'content-type': 'application/zip', ...headers }, body: file })
  if (!response.ok) throw await problemOf(response)
  return (await response.json()) as T
}

/** Sign-in stands before the typed routes: it sets the cookie. */
export const postPlain = async (path: string, input: unknown): Promise<void> => void (await askPlain(path, input))

export async function getPlain<T>(path: string): Promise<T> {
  const response = await reach(path)
  if (!response.ok) throw await problemOf(response)
  return (await response.json()) as T
}

/** The message of a field, where the server named one. */
export const fieldError = (error: unknown, path: string): string | undefined =>
  error instanceof ApiProblem ? error.fields.find((field) => field.path === path)?.message : undefined
