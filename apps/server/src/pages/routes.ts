import { bookPlaceSchema, bookSchema, visitPageSchema } from '@evenround/contract/book'
import { daySchema, idSchema } from '@evenround/contract/common'
import { disinfectionPageSchema, disinfectionSetupSchema } from '@evenround/contract/disinfections'
import { shelfSchema } from '@evenround/contract/shelf'
import { sitePageSchema, siteRowSchema, stopPageSchema, todaySchema, weekSchema } from '@evenround/contract/site'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, router } from '../http/env'
import { json, PROBLEMS } from '../http/openapi'
import { bookPage, visitPage } from './book'
import { disinfectionPage, disinfectionSetup } from './disinfection'
import { shelfPage } from './shelf'
import { sitePage, sitesPage } from './site'
import { stopPage, todayPage, weekPage } from './today'

const one = { params: z.object({ id: idSchema }) }

const routes = {
  today: createRoute({ method: 'get', path: '/api/today', responses: { 200: json(todaySchema), ...PROBLEMS } }),
  week: createRoute({
    method: 'get',
    path: '/api/week',
    request: { query: z.object({ from: daySchema.optional() }) },
    responses: { 200: json(weekSchema), ...PROBLEMS },
  }),
  stop: createRoute({ method: 'get', path: '/api/stops/{id}', request: one, responses: { 200: json(stopPageSchema), ...PROBLEMS } }),
  sites: createRoute({
    method: 'get',
    path: '/api/sites',
    responses: { 200: json(z.object({ sites: z.array(siteRowSchema) })), ...PROBLEMS },
  }),
  site: createRoute({ method: 'get', path: '/api/sites/{id}', request: one, responses: { 200: json(sitePageSchema), ...PROBLEMS } }),
  setup: createRoute({
    method: 'get',
    path: '/api/sites/{id}/disinfection-setup',
    request: one,
    responses: { 200: json(disinfectionSetupSchema), ...PROBLEMS },
  }),
  disinfection: createRoute({
    method: 'get',
    path: '/api/disinfections/{id}',
    request: one,
    responses: { 200: json(disinfectionPageSchema), ...PROBLEMS },
  }),
  shelf: createRoute({ method: 'get', path: '/api/shelf', responses: { 200: json(shelfSchema), ...PROBLEMS } }),
  book: createRoute({
    method: 'get',
    path: '/api/book',
    request: { query: z.object({ before: bookPlaceSchema.optional() }) },
    responses: { 200: json(bookSchema), ...PROBLEMS },
  }),
  visit: createRoute({ method: 'get', path: '/api/visits/{id}', request: one, responses: { 200: json(visitPageSchema), ...PROBLEMS } }),
}

/** Screens that show several subjects at once, composed here from the subjects' parts. */
export const pageRoutes = (deps: Deps) =>
  router()
    .openapi(routes.today, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => todayPage(scope, c.get('who'), deps.now())), 200),
    )
    .openapi(routes.week, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => weekPage(scope, c.get('who'), deps.now(), c.req.valid('query').from)), 200),
    )
    .openapi(routes.stop, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => stopPage(scope, c.req.valid('param').id, deps.now())), 200),
    )
    .openapi(routes.sites, async (c) =>
      c.json({ sites: await deps.inFirm(c.get('who').firmId, (scope) => sitesPage(scope, deps.now())) }, 200),
    )
    .openapi(routes.site, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => sitePage(scope, c.req.valid('param').id, deps.now())), 200),
    )
    .openapi(routes.setup, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => disinfectionSetup(scope, c.req.valid('param').id, deps.now())), 200),
    )
    .openapi(routes.disinfection, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => disinfectionPage(scope, c.req.valid('param').id, deps.now())), 200),
    )
    .openapi(routes.shelf, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => shelfPage(scope, c.get('who'), deps.now())), 200),
    )
    .openapi(routes.book, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => bookPage(scope, c.req.valid('query').before)), 200),
    )
    .openapi(routes.visit, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => visitPage(scope, c.req.valid('param').id, deps.now())), 200),
    )
