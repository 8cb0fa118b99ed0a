import { CALC } from '@evenround/contract/calc'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { json, PROBLEMS } from '../../http/openapi'

const call = createRoute({
  method: 'post',
  path: '/api/calc/{name}',
  request: { params: z.object({ name: z.string() }), body: { content: { 'application/json': { schema: z.unknown() } }, required: true } },
  responses: { 200: json(z.unknown()), ...PROBLEMS },
})

/** The scriptable core over the wire: the same functions and the same messages as the command. */
export const calcRoutes = (deps: Deps) =>
  router().openapi(call, async (c) => {
    const { name } = c.req.valid('param')
    if (!Object.hasOwn(CALC, name)) throw notFound('function')
    return c.json(await deps.calc(name, c.req.valid('json')), 200)
  })
