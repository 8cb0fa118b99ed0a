import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type ApartDeps, router } from '../../http/env'
import { PROBLEMS } from '../../http/openapi'
import { noteDeed } from '../records/audit'
import { calendarOf, todayOf } from './calendar'
import { roadCsv, roadGeoJson } from './formats'
import { roadFrom } from './road'

const text = (description: string, type: string) => ({ 200: { description, content: { [type]: { schema: z.string() } } }, ...PROBLEMS })

const attachment = (name: string) => ({ 'content-disposition': `attachment; filename="${name}"` })

const routes = {
  csv: createRoute({ method: 'get', path: '/api/round.csv', responses: text('the published round as CSV', 'text/csv') }),
  geo: createRoute({ method: 'get', path: '/api/round.geojson', responses: text('sites and tours as GeoJSON', 'application/geo+json') }),
  file: createRoute({ method: 'get', path: '/api/round.ics', responses: text('one’s own round as iCalendar', 'text/calendar') }),
}

/** The published round in open formats. */
export const roundFileRoutes = (deps: ApartDeps) =>
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
