import { bookQuerySchema, bookSchema, lifeSchema, visitPageSchema } from '@evenround/contract/book'
import { idSchema, workDaySchema } from '@evenround/contract/common'
import { disinfectionPageSchema, disinfectionSetupSchema } from '@evenround/contract/disinfections'
import { factBatchResultSchema } from '@evenround/contract/effects'
import { officeSchema } from '@evenround/contract/office'
import { offlineSchema } from '@evenround/contract/offline'
import { PROTOCOL_VERSION } from '@evenround/contract/protocol'
import { shelfSchema } from '@evenround/contract/shelf'
import { sitePageSchema, stopPageSchema, todaySchema, weekSchema } from '@evenround/contract/site'
import { factBatchSchema } from '@evenround/contract/visit'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { takeFacts } from '../features/facts/take'
import { storedTogetherBy } from '../features/facts/together'
import { lookedAt } from '../features/records/looks'
import { type Deps, need, router } from '../http/env'
import { ApiError } from '../http/errors'
import { body, json, PROBLEMS } from '../http/openapi'
import { bookPage, visitPage } from './book'
import { disinfectionPage, disinfectionSetup } from './disinfection'
import { effectsOf, newsOfFacts } from './effects'
import { lifePage } from './life'
import { officePage } from './office'
import { offlinePage } from './offline'
import { shelfPage } from './shelf'
import { sitePage } from './site'
import { stopPage, todayPage, weekPage } from './today'

const one = { params: z.object({ id: idSchema }) }

const routes = {
  today: createRoute({ method: 'get', path: '/api/today', responses: { 200: json(todaySchema), ...PROBLEMS } }),
  week: createRoute({
    method: 'get',
    path: '/api/week',
    request: { query: z.object({ from: workDaySchema.optional() }) },
    responses: { 200: json(weekSchema), ...PROBLEMS },
  }),
  offline: createRoute({
    method: 'get',
    path: '/api/offline',
    request: { query: z.object({ days: z.coerce.number().int().min(1).max(14).default(7) }) },
    responses: { 200: json(offlineSchema), ...PROBLEMS },
  }),
  stop: createRoute({ method: 'get', path: '/api/stops/{id}', request: one, responses: { 200: json(stopPageSchema), ...PROBLEMS } }),
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
    request: { query: bookQuerySchema },
    responses: { 200: json(bookSchema), ...PROBLEMS },
  }),
  life: createRoute({ method: 'get', path: '/api/sites/{id}/life', request: one, responses: { 200: json(lifeSchema), ...PROBLEMS } }),
  facts: createRoute({
    method: 'post',
    path: '/api/facts',
    request: body(factBatchSchema),
    responses: { 200: json(factBatchResultSchema), ...PROBLEMS },
  }),
  office: createRoute({ method: 'get', path: '/api/office', responses: { 200: json(officeSchema), ...PROBLEMS } }),
  visit: createRoute({ method: 'get', path: '/api/visits/{id}', request: one, responses: { 200: json(visitPageSchema), ...PROBLEMS } }),
}

/** Screens that show several subjects at once, composed here from the subjects' parts. */
export const pageRoutes = (deps: Deps) => {
  const taking = { ...deps, storeTogether: storedTogetherBy(deps.askFirm) }
  return router()
    .openapi(routes.today, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => todayPage(scope, c.get('who'), deps.now())), 200),
    )
    .openapi(routes.week, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => weekPage(scope, c.get('who'), deps.now(), c.req.valid('query').from)), 200),
    )
    .openapi(routes.offline, async (c) =>
      c.json(
        await deps.inFirm(c.get('who').firmId, (scope) => offlinePage(scope, c.get('who'), deps.now(), c.req.valid('query').days)),
        200,
      ),
    )
    .openapi(routes.stop, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => stopPage(scope, c.req.valid('param').id, deps.now())), 200),
    )
    .openapi(routes.site, async (c) => {
      const { id } = c.req.valid('param')
      return c.json(await lookedAt(deps, c.get('who'), id, (scope) => sitePage(scope, id, deps.now())), 200)
    })
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
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => bookPage(scope, c.req.valid('query'))), 200),
    )
    .openapi(routes.life, async (c) => {
      const { id } = c.req.valid('param')
      return c.json(await lookedAt(deps, c.get('who'), id, (scope) => lifePage(scope, id)), 200)
    })
    .openapi(routes.facts, async (c) => {
      const { protocol, deviceId, sentAt, facts, notAfter = {} } = c.req.valid('json')
      if (protocol > PROTOCOL_VERSION)
        throw new ApiError(
          'SERVER_TOO_OLD',
          say`The server is older than this app. The facts stay on the device until it is brought up to date.`,
        )
      const who = c.get('who')
      const skewMs = Date.parse(sentAt) - deps.now().getTime()
      const { results, accepted } = await takeFacts(taking, facts, { who, deviceId, skewMs, notAfter }, protocol)
      if (accepted.length > 0) await deps.tell(who.firmId, newsOfFacts(deviceId, accepted))
      return c.json({ results, skewMs, effects: await effectsOf(deps, who.firmId, accepted) }, 200)
    })
    .openapi(routes.office, async (c) => {
      need(c.get('who'), 'plan-rounds')
      return c.json(await deps.inFirm(c.get('who').firmId, (scope) => officePage(scope, deps.now())), 200)
    })
    .openapi(routes.visit, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => visitPage(scope, c.req.valid('param').id, deps.now())), 200),
    )
}
