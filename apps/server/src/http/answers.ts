import { createHash } from 'node:crypto'
import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import type { Context } from 'hono'
import { createMiddleware } from 'hono/factory'
import type { ContentfulStatusCode } from 'hono/utils/http-status'
import type { Env } from './env'
import type { KeptAnswers } from './kept'

const gzipped = promisify(gzip)
/** A smaller answer is in one or two packets as it is. */
const PACKED_FROM_BYTES = 4096
/** Most of what can be saved, for a third of the work. */
const LEVEL = 4
const JSON_TYPE = /^application\/json\b/
/** What a "not changed" answer still says (RFC 9110, 15.4.5). */
const STILL_SAID = ['cache-control', 'content-location', 'date', 'etag', 'expires', 'vary', 'x-request-id', 'set-cookie']
/** What the answer to each request says for itself. */
const OF_ONE_REQUEST = ['x-request-id', 'set-cookie']

/** A JSON answer as a whole: sent to one request, and perhaps kept for the next. */
export interface WholeAnswer {
  body: Uint8Array<ArrayBuffer>
  headers: Readonly<Record<string, string>>
  /** The body as gzip, made when it is asked for first. */
  packed: Promise<Uint8Array<ArrayBuffer>> | null
}

const isAmong = (tag: string, asked: string | undefined): boolean =>
  asked?.split(',').some((one) => one.trim().replace(/^W\//, '') === tag) === true

/** Hears the text that is answered as JSON: to read it back out of a response takes several times as long as to write it. */
function hearJson(c: Context<Env>): () => string | null {
  let heard: string | null = null
  const json = (value: unknown, status?: ContentfulStatusCode, headers?: Record<string, string>): Response => {
    heard = JSON.stringify(value)
    return c.body(heard, status, { 'content-type': 'application/json', ...headers })
  }
  c.json = json as typeof c.json
  return () => heard
}

async function wholeOf({ req, res }: Context<Env>, heard: string | null): Promise<WholeAnswer | null> {
  if (res.status !== 200 || !JSON_TYPE.test(res.headers.get('content-type') ?? '')) return null
  const body = heard === null ? new Uint8Array(await res.arrayBuffer()) : new Uint8Array(Buffer.from(heard))
  const headers: Record<string, string> = {}
  for (const [name, value] of res.headers) if (!OF_ONE_REQUEST.includes(name)) headers[name] = value
  headers.vary = headers.vary ? `${headers.vary}, accept-encoding` : 'accept-encoding'
  if (req.method === 'GET') headers.etag = `"${createHash('sha1').update(body).digest('hex')}"`
  return { body, headers, packed: null }
}

/** Without a body for whoever has it, packed for whoever unpacks it; its length is known. */
async function sent(c: Context<Env>, whole: WholeAnswer): Promise<Response> {
  const { etag } = whole.headers
  if (etag !== undefined && isAmong(etag, c.req.header('if-none-match')))
    return c.body(null, 304, Object.fromEntries(Object.entries(whole.headers).filter(([name]) => STILL_SAID.includes(name))))
  const packs = whole.body.length >= PACKED_FROM_BYTES && /\bgzip\b/.test(c.req.header('accept-encoding') ?? '')
  if (packs) whole.packed ??= gzipped(whole.body, { level: LEVEL }).then((bytes) => new Uint8Array(bytes))
  const bytes = packs && whole.packed ? await whole.packed : whole.body
  return c.body(bytes, 200, {
    ...whole.headers,
    'content-length': String(bytes.length),
    ...(packs ? { 'content-encoding': 'gzip' } : {}),
  })
}

/**
 * Sends JSON once: what has not changed since it was asked for last is not sent again (RFC 9110, entity tags), what is large goes packed,
 * and what was worked out at this revision of the firm's records already is not worked out again. Streams and files are left alone.
 */
export const sentOnce = (kept: KeptAnswers) =>
  createMiddleware<Env>(async (c, next) => {
    const place = kept.placeOf(c)
    const taken = place && kept.take(place)
    const found = taken && ('whole' in taken ? taken.whole : 'coming' in taken ? await taken.coming : null)
    if (found) return sent(c, found)
    // What came to nothing for whoever was first is worked out by each who waited for it.
    const put = taken && 'put' in taken ? taken.put : place && kept.making(place)
    const heard = hearJson(c)
    let whole: WholeAnswer | null = null
    try {
      await next()
      whole = await wholeOf(c, heard())
    } finally {
      put?.(whole)
    }
    if (whole === null) return
    const cookies = c.res.headers.getSetCookie()
    c.res = undefined
    c.res = await sent(c, whole)
    for (const cookie of cookies) c.header('set-cookie', cookie, { append: true })
  })
