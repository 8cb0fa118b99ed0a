import { randomBytes } from 'node:crypto'
import { feedSchema } from '@evenround/contract/rounds'
import { createRoute } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { z } from 'zod'
import { hashOfToken } from '../../auth/token'
import { type Deps, type Env, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { json, PROBLEMS } from '../../http/openapi'
import { calendarOf } from './calendar'

const routes = {
  feed: createRoute({ method: 'post', path: '/api/feed', responses: { 200: json(feedSchema), ...PROBLEMS } }),
  close: createRoute({ method: 'delete', path: '/api/feed', responses: { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS } }),
}

/** The secret address a calendar program reads one's own from. */
export const feedRoutes = (deps: Deps) =>
  router()
    .openapi(routes.feed, async (c) => {
      const who = c.get('who')
      const token = randomBytes(24).toString('base64url')
      await deps.inFirm(who.firmId, (scope) =>
        scope.query(
          `insert into feed (firm_id, id, token_hash, made_at) values ($1, $2, $3, $4)
           on conflict (firm_id, id) do update set token_hash = excluded.token_hash, made_at = excluded.made_at`,
          [who.personId, hashOfToken(token), deps.now()],
        ),
      )
      // Shown once: only its hash is kept. Asking again makes another, and this one ends.
      return c.json({ path: `/api/feeds/${token}.ics` }, 200)
    })
    .openapi(routes.close, async (c) => {
      const who = c.get('who')
      await deps.inFirm(who.firmId, (scope) => scope.query('delete from feed where firm_id = $1 and id = $2', [who.personId]))
      return c.json({ ok: true } as const, 200)
    })

/** The feed itself: whoever has the address reads it, without a sign-in; a wrong one tells nothing. */
export async function feed(c: Context<Env>, deps: Deps): Promise<Response> {
  const token = (c.req.param('file') ?? '').replace(/\.ics$/, '')
  const found = await deps.inFeedScope(hashOfToken(token))
  if (!found) throw notFound('calendar')
  const file = await deps.inFirm(found.firmId, (scope) => calendarOf(scope, found.personId, deps.now()))
  return c.text(file, 200, { 'content-type': 'text/calendar; charset=utf-8', 'cache-control': 'private, max-age=300' })
}
