import { daySchema, idSchema } from '@evenround/contract/common'
import { PROTOCOL_VERSION } from '@evenround/contract/protocol'
import { unscheduledStopSchema } from '@evenround/contract/unscheduled'
import { factBatchResultSchema, factBatchSchema } from '@evenround/contract/visit'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { takeFacts } from '../../facts/take'
import { type Deps, need, router } from '../../http/env'
import { ApiError } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { putOff } from './put-off'
import { putUnscheduled } from './unscheduled'

const send = createRoute({
  method: 'post',
  path: '/api/facts',
  request: body(factBatchSchema),
  responses: { 200: json(factBatchResultSchema), ...PROBLEMS },
})

const unscheduled = createRoute({
  method: 'post',
  path: '/api/stops',
  request: body(unscheduledStopSchema),
  responses: { 200: json(z.object({ id: idSchema })), ...PROBLEMS },
})

const putOffRoute = createRoute({
  method: 'post',
  path: '/api/stops/{id}/put-off',
  request: { params: z.object({ id: idSchema }), ...body(z.strictObject({ day: daySchema.nullable() })) },
  responses: { 200: json(z.object({ day: daySchema })), ...PROBLEMS },
})

/** The one door for field work: a batch of facts in, an answer for each one out. */
export const visitRoutes = (deps: Deps) =>
  router()
    .openapi(unscheduled, async (c) => {
      const who = c.get('who')
      need(who, 'record-facts')
      return c.json(await deps.inFirm(who.firmId, (scope) => putUnscheduled(scope, who, c.req.valid('json'), deps.now())), 200)
    })
    .openapi(putOffRoute, async (c) => {
      const who = c.get('who')
      need(who, 'record-facts')
      const { id } = c.req.valid('param')
      return c.json(await deps.inFirm(who.firmId, (scope) => putOff(scope, who, id, c.req.valid('json').day, deps.now())), 200)
    })
    .openapi(send, async (c) => {
      const { protocol, deviceId, sentAt, facts } = c.req.valid('json')
      if (protocol > PROTOCOL_VERSION)
        throw new ApiError(
          'SERVER_TOO_OLD',
          'The server is older than this app. The facts stay on the device until it is brought up to date.',
        )
      const skewMs = Date.parse(sentAt) - deps.now().getTime()
      const results = await takeFacts(deps, facts, { who: c.get('who'), deviceId, skewMs }, protocol)
      return c.json({ results, skewMs }, 200)
    })
