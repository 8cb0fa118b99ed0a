import { daySchema, idSchema, workDaySchema } from '@evenround/contract/common'
import { unscheduledStopSchema } from '@evenround/contract/unscheduled'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, need, router } from '../../http/env'
import { body, json, PROBLEMS } from '../../http/openapi'
import { putOff } from './put-off'
import { putUnscheduled } from './unscheduled'

const unscheduled = createRoute({
  method: 'post',
  path: '/api/stops',
  request: body(unscheduledStopSchema),
  responses: { 200: json(z.object({ id: idSchema })), ...PROBLEMS },
})

const putOffRoute = createRoute({
  method: 'post',
  path: '/api/stops/{id}/put-off',
  request: { params: z.object({ id: idSchema }), ...body(z.strictObject({ day: workDaySchema.nullable() })) },
  responses: { 200: json(z.object({ day: daySchema })), ...PROBLEMS },
})

/** Stops that a technician puts on the day, or off it. */
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
