import { CALC } from '@evenround/contract/calc'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { jsonText } from '../../http/front'
import { json, PROBLEMS } from '../../http/openapi'

const call = createRoute({
  method: 'post',
  path: '/api/calc/{name}',
  request: { params: z.object({ name: z.string() }), body: { content: { 'application/json': { schema: z.unknown() } }, required: true } },
  responses: { 200: json(z.unknown()), ...PROBLEMS },
})

/** The scriptable core over the wire: the same functions and the same messages as the command. */
export const calcRoutes = (deps: Deps) => {
  const app = router()
  // Described, and its body not read here: a large one is read where it is worked out.
  app.openAPIRegistry.registerPath(call)
  return app.post('/api/calc/:name', async (c) => {
    const name = c.req.param('name')
    if (!Object.hasOwn(CALC, name)) throw notFound('function')
    return c.body(await deps.calc(name, await jsonText(c)), 200, { 'content-type': 'application/json' })
  })
}
