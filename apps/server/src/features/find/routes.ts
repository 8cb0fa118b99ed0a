import { findSchema, foundSchema } from '@evenround/contract/find'
import { createRoute } from '@hono/zod-openapi'
import { type Deps, router } from '../../http/env'
import { json, PROBLEMS } from '../../http/openapi'
import { findIn } from './store'

const MOST = 40

const routes = {
  find: createRoute({
    method: 'get',
    path: '/api/search',
    request: { query: findSchema },
    responses: { 200: json(foundSchema), ...PROBLEMS },
  }),
}

/** Search from anywhere. */
export const findRoutes = (deps: Deps) =>
  router().openapi(routes.find, async (c) => {
    const { q } = c.req.valid('query')
    return c.json({ found: await deps.inFirm(c.get('who').firmId, (scope) => findIn(scope, q, MOST)) }, 200)
  })
