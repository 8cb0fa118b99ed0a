import { createMiddleware } from 'hono/factory'
import type { Deps, Env } from './env'
import type { LimitName } from './limits'
import { routeOf } from './rights'

/** What is dear to do, or opens something to whoever guesses: counted by person. Looking whether a firm's file is made yet is neither. */
export const ROUTE_LIMITS: Readonly<Record<string, LimitName>> = {
  'POST /api/me/password': 'password',
  'POST /api/me/second': 'password',
  'POST /api/me/second/confirm': 'password',
  'POST /api/me/second/codes': 'password',
  'POST /api/me/second/off': 'password',
  'POST /api/me/passkeys/ask': 'password',
  'POST /api/me/passkeys': 'password',
  'POST /api/people/invitations': 'invitation',
  'POST /api/people/{id}/links': 'invitation',
  'POST /api/calc/{name}': 'calc',
  'PUT /api/photos/{id}': 'photo',
  'POST /api/intakes/check': 'import',
  'POST /api/intakes': 'import',
  'POST /api/intakes/{id}/stop': 'import',
  'POST /api/intakes/{id}/undo': 'import',
  'POST /api/parts/list/check': 'import',
  'POST /api/parts/list': 'import',
  'POST /api/times/holidays': 'import',
  'POST /api/laboratory/read': 'import',
  'POST /api/firm-file': 'export',
  'GET /api/firm-file/{id}': 'export',
  'GET /api/sites/{id}/customer': 'export',
  'GET /api/due.csv': 'export',
  'GET /api/book.csv': 'export',
  'GET /api/round.csv': 'export',
  'GET /api/round.geojson': 'export',
}

/** Refuses whoever asks for these more often than may. */
export const asOftenAsMay = (deps: Deps) =>
  createMiddleware<Env>(async (c, next) => {
    const name = ROUTE_LIMITS[routeOf(c) ?? '']
    if (name !== undefined) await deps.limit(name, c.get('who').personId)
    await next()
  })
