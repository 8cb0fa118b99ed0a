import { randomBytes } from 'node:crypto'
import { feedSchema } from '@evenround/contract/rounds'
import { addDays } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { z } from 'zod'
import { hashOfToken } from '../../auth/token'
import { Firm, Person } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { type Deps, type Env, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { noteDeed } from '../records/audit'
import { roadCalendar, roadCsv, roadGeoJson } from './formats'
import { roadFrom } from './road'

const text = (description: string, type: string) => ({ 200: { description, content: { [type]: { schema: z.string() } } }, ...PROBLEMS })

const routes = {
  csv: createRoute({ method: 'get', path: '/api/round.csv', responses: text('the published round as CSV', 'text/csv') }),
  geo: createRoute({ method: 'get', path: '/api/round.geojson', responses: text('sites and tours as GeoJSON', 'application/geo+json') }),
  file: createRoute({ method: 'get', path: '/api/round.ics', responses: text('one’s own round as iCalendar', 'text/calendar') }),
  feed: createRoute({ method: 'post', path: '/api/feed', responses: { 200: json(feedSchema), ...PROBLEMS } }),
  close: createRoute({ method: 'delete', path: '/api/feed', responses: { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS } }),
}

/** Days of the past that a calendar still shows. */
const DAYS_BACK = 14
const attachment = (name: string) => ({ 'content-disposition': `attachment; filename="${name}"` })

async function todayOf(scope: FirmScope, now: Date): Promise<{ firm: Firm; today: string }> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  return { firm, today: dayIn(firm.timeZone, now) }
}

async function calendarOf(scope: FirmScope, personId: string, now: Date): Promise<string> {
  const { firm, today } = await todayOf(scope, now)
  const person = await scope.findOne(Person, { id: personId })
  const road = await roadFrom(scope, addDays(today, -DAYS_BACK), personId)
  return roadCalendar(road, { name: `${person?.name ?? ''}: round`, timeZone: firm.timeZone, now })
}

/** The round in open formats, and the secret address a calendar program reads one's own from. */
export const feedRoutes = (deps: Deps) =>
  router()
    .openapi(routes.csv, async (c) => {
      const all = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await noteDeed(scope, deps, c.get('who'), 'list-exported', say`The published round, as CSV`)
        return roadFrom(scope, (await todayOf(scope, deps.now())).today, null)
      })
      return c.text(roadCsv(all), 200, { 'content-type': 'text/csv; charset=utf-8', ...attachment('round.csv') })
    })
    .openapi(routes.geo, async (c) => {
      const all = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await noteDeed(scope, deps, c.get('who'), 'list-exported', say`Sites and tours, as GeoJSON`)
        return roadFrom(scope, (await todayOf(scope, deps.now())).today, null)
      })
      return c.text(JSON.stringify(roadGeoJson(all)), 200, { 'content-type': 'application/geo+json', ...attachment('round.geojson') })
    })
    .openapi(routes.file, async (c) => {
      const who = c.get('who')
      const file = await deps.inFirm(who.firmId, (scope) => calendarOf(scope, who.personId, deps.now()))
      return c.text(file, 200, { 'content-type': 'text/calendar; charset=utf-8', ...attachment('round.ics') })
    })
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
