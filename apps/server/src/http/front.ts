import { randomUUID } from 'node:crypto'
import { say } from '@evenround/core/words'
import type { Context, MiddlewareHandler } from 'hono'
import { bodyLimit } from 'hono/body-limit'
import { createMiddleware } from 'hono/factory'
import type { Env } from './env'
import { ApiError, badInput } from './errors'

const REQUEST_ID = /^[\w-]{8,64}$/
/** A caller's own name for a request where it is one, else a new one: it stands in logs and answers, so it is short and plain. */
export const requestIdOf = (given: string | undefined): string => (given !== undefined && REQUEST_ID.test(given) ? given : randomUUID())

/** Paths whose last part is a secret: whoever reads the logs may not read what it opens. */
const SECRET_PATH = /^(\/api\/feeds\/).+$/
export const loggedPath = (path: string): string => path.replace(SECRET_PATH, '$1…')

const CHANGES = new Set(['POST', 'PUT', 'PATCH', 'DELETE'])
const OWN_SITES = new Set(['same-origin', 'none'])

const hostOf = (origin: string): string | null => {
  try {
    return new URL(origin).host
  } catch {
    return null
  }
}

/**
 * What changes something is asked for by our own pages or by no page at all: a browser names the page it stands on (Origin, RFC 6454;
 * Sec-Fetch-Site), and a stranger's page is refused even if cookies came along. Programs that are no browsers name none.
 */
export const ownPagesOnly = (publicUrl: string | null) => {
  const publicHost = publicUrl === null ? null : hostOf(publicUrl)
  return createMiddleware<Env>(async (c, next) => {
    if (CHANGES.has(c.req.method)) {
      const origin = c.req.header('origin')
      const site = c.req.header('sec-fetch-site')
      const own = [c.req.header('host') ?? new URL(c.req.url).host, publicHost]
      const foreign = origin !== undefined && !own.includes(hostOf(origin) ?? '')
      if (foreign || (site !== undefined && !OWN_SITES.has(site)))
        throw new ApiError('NO_RIGHT', say`This was asked for by a page of another site.`)
    }
    await next()
  })
}

const tooLarge = (): never => {
  throw new ApiError('TOO_LARGE', say`That is more than fits into one request.`)
}

/** Refuses larger bodies: by the length that is told before one, which Node reads no further than, and where none is told while it is read. */
export const noLargerThan = (mostBytes: number): MiddlewareHandler<Env> => {
  const whileRead = bodyLimit({ maxSize: mostBytes, onError: tooLarge })
  return (c, next) => {
    if (!CHANGES.has(c.req.method)) return next()
    const told = c.req.header('content-length')
    if (told === undefined || c.req.header('transfer-encoding') !== undefined) return whileRead(c, next)
    return Number(told) > mostBytes ? tooLarge() : next()
  }
}

/** Deeper than anything the program writes. */
const DEEPEST = 64

/** How deep a JSON text nests, without reading what it says: a text that nests without end costs more to read than to send. */
export function depthOf(text: string): number {
  let [depth, deepest, inString] = [0, 0, false]
  for (let index = 0; index < text.length; index++) {
    const sign = text.charCodeAt(index)
    if (inString) {
      if (sign === 0x5c) index++
      else if (sign === 0x22) inString = false
    } else if (sign === 0x22) inString = true
    else if (sign === 0x5b || sign === 0x7b) deepest = Math.max(deepest, ++depth)
    else if (sign === 0x5d || sign === 0x7d) depth--
  }
  return deepest
}

/** Doors that take something else than JSON: a picture, and a firm's whole file. */
const NOT_JSON = /^\/api\/(photos\/[^/]+|setup\/file)$/
const JSON_TYPE = /^application\/json\b/i

/** The text of a JSON body that says so, is not packed, and is no deeper than anybody needs; empty where there is none. */
export async function jsonText(c: Context<Env>): Promise<string> {
  const packed = c.req.header('content-encoding')
  if (packed !== undefined && packed !== 'identity') throw badInput([{ path: '$', message: say`expected a body that is not compressed` }])
  const type = c.req.header('content-type')
  const text = await c.req.text()
  if (text !== '' && (type === undefined || !JSON_TYPE.test(type)))
    throw badInput([{ path: '$', message: say`expected the content type application/json` }])
  if (depthOf(text) > DEEPEST) throw badInput([{ path: '$', message: say`expected JSON no deeper than ${DEEPEST} levels` }])
  return text
}

/** Looks at the bodies of those who are signed in, before anything reads them. */
export const plainJson = createMiddleware<Env>(async (c, next) => {
  if (CHANGES.has(c.req.method) && !NOT_JSON.test(c.req.path)) await jsonText(c)
  await next()
})
