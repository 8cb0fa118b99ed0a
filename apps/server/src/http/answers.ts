import { createHash } from 'node:crypto'
import { promisify } from 'node:util'
import { gzip } from 'node:zlib'
import { createMiddleware } from 'hono/factory'
import type { Env } from './env'

const packed = promisify(gzip)
/** A smaller answer is in one or two packets as it is. */
const PACKED_FROM_BYTES = 4096
/** Most of what can be saved, for a third of the work. */
const LEVEL = 4
const JSON_TYPE = /^application\/json\b/
/** What a "not changed" answer still says (RFC 9110, 15.4.5). */
const STILL_SAID = ['cache-control', 'content-location', 'date', 'etag', 'expires', 'vary', 'x-request-id', 'set-cookie']

const isAmong = (tag: string, asked: string | undefined): boolean =>
  asked?.split(',').some((one) => one.trim().replace(/^W\//, '') === tag) === true

/**
 * Sends JSON once: what has not changed since it was asked for last is not sent again (RFC 9110, entity tags), and what is large goes
 * packed. The answer is there as a whole anyway, so its length is known; streams and files are left alone.
 */
export const sentOnce = createMiddleware<Env>(async (c, next) => {
  await next()
  const { res } = c
  if (res.status !== 200 || !JSON_TYPE.test(res.headers.get('content-type') ?? '')) return
  const body = Buffer.from(await res.arrayBuffer())
  const headers = new Headers(res.headers)
  headers.append('vary', 'accept-encoding')
  if (c.req.method === 'GET') {
    const tag = `"${createHash('sha1').update(body).digest('hex')}"`
    headers.set('etag', tag)
    if (isAmong(tag, c.req.header('if-none-match'))) {
      for (const name of [...headers.keys()]) if (!STILL_SAID.includes(name)) headers.delete(name)
      c.res = undefined
      c.res = new Response(null, { status: 304, headers })
      return
    }
  }
  const packs = body.length >= PACKED_FROM_BYTES && /\bgzip\b/.test(c.req.header('accept-encoding') ?? '')
  const sent = packs ? await packed(body, { level: LEVEL }) : body
  if (packs) headers.set('content-encoding', 'gzip')
  headers.set('content-length', String(sent.length))
  c.res = undefined
  c.res = new Response(new Uint8Array(sent), { status: 200, headers })
})
