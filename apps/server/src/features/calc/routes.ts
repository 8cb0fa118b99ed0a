import { CALC } from '@evenround/contract/calc'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { FairGate } from '../../http/gate'
import { json, PROBLEMS } from '../../http/openapi'

const call = createRoute({
  method: 'post',
  path: '/api/calc/{name}',
  request: { params: z.object({ name: z.string() }), body: { content: { 'application/json': { schema: z.unknown() } }, required: true } },
  responses: { 200: json(z.unknown()), ...PROBLEMS },
})

/** As many as there are threads for them, in turns between firms: a heap of one firm's sums does not keep the others waiting. */
const TURNS = { atOnce: 2, waiting: 64, waitingEach: 16 } as const

/** The scriptable core over the wire: the same functions and the same messages as the command. */
export const calcRoutes = (deps: Deps) => {
  const app = router()
  const gate = new FairGate(TURNS)
  // Described, and its body not read here: a large one is read where it is worked out.
  app.openAPIRegistry.registerPath(call)
  return app.post('/api/calc/:name', async (c) => {
    const name = c.req.param('name')
    if (!Object.hasOwn(CALC, name)) throw notFound('function')
    // Looked at by `plainJson` on its way here.
    const text = await c.req.text()
    const answer = await gate.run(c.get('who').firmId, () => deps.calc(name, text))
    return c.body(answer, 200, { 'content-type': 'application/json' })
  })
}
