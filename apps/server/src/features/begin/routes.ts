import { demoSchema } from '@evenround/contract/begin'
import { createRoute } from '@hono/zod-openapi'
import { type Deps, need, router } from '../../http/env'
import { json, PROBLEMS } from '../../http/openapi'
import { demoOf, loadDemoFor, throwDemoAwayFor } from './demo'

const answers = { 200: json(demoSchema), ...PROBLEMS }
const routes = {
  demo: createRoute({ method: 'get', path: '/api/demo', responses: answers }),
  load: createRoute({ method: 'post', path: '/api/demo', responses: answers }),
  throwAway: createRoute({ method: 'delete', path: '/api/demo', responses: answers }),
}

/** The demo beside a firm of one's own: looked at, and thrown away. */
export const beginRoutes = (deps: Deps) =>
  router()
    .openapi(routes.demo, async (c) => {
      need(c.get('who'), 'manage-people')
      return c.json(await demoOf(deps, c.get('who')), 200)
    })
    .openapi(routes.load, async (c) => {
      need(c.get('who'), 'manage-people')
      return c.json(await loadDemoFor(deps, c.get('who')), 200)
    })
    .openapi(routes.throwAway, async (c) => {
      need(c.get('who'), 'manage-people')
      return c.json(await throwDemoAwayFor(deps, c.get('who')), 200)
    })
