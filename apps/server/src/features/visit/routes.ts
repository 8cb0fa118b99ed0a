import { PROTOCOL_VERSION } from '@evenround/contract/protocol'
import { factBatchResultSchema, factBatchSchema } from '@evenround/contract/visit'
import { createRoute } from '@hono/zod-openapi'
import { takeFacts } from '../../facts/take'
import { type Deps, router } from '../../http/env'
import { ApiError } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'

const send = createRoute({
  method: 'post',
  path: '/api/facts',
  request: body(factBatchSchema),
  responses: { 200: json(factBatchResultSchema), ...PROBLEMS },
})

/** The one door for field work: a batch of facts in, an answer for each one out. */
export const visitRoutes = (deps: Deps) =>
  router().openapi(send, async (c) => {
    const { protocol, deviceId, sentAt, facts } = c.req.valid('json')
    if (protocol > PROTOCOL_VERSION)
      throw new ApiError(
        'SERVER_TOO_OLD',
        'The server is older than this app. The facts stay on the device until it is brought up to date.',
      )
    const skewMs = Date.parse(sentAt) - deps.now().getTime()
    const results = await takeFacts(deps, facts, { who: c.get('who'), deviceId, skewMs })
    return c.json({ results, skewMs }, 200)
  })
