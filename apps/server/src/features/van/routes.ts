import { workDaySchema } from '@evenround/contract/common'
import { vanListSchema, vanTickSchema } from '@evenround/contract/rounds'
import { addDays } from '@evenround/core/units'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm } from '../../db/entities/master'
import { type Deps, router } from '../../http/env'
import { body, json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { tickVan, vanList } from './list'

const routes = {
  list: createRoute({
    method: 'get',
    path: '/api/van',
    request: { query: z.object({ from: workDaySchema.optional(), days: z.coerce.number().int().min(1).max(14).default(1) }) },
    responses: { 200: json(vanListSchema), ...PROBLEMS },
  }),
  tick: createRoute({
    method: 'put',
    path: '/api/van/ticks',
    request: body(vanTickSchema),
    responses: { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS },
  }),
}

/** One's own van: what it must hold, and what is in it. */
export const vanRoutes = (deps: Deps) =>
  router()
    .openapi(routes.list, async (c) => {
      const who = c.get('who')
      const { from, days } = c.req.valid('query')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const firm = await scope.findOne(Firm, {})
          const first = from ?? dayIn(firm?.timeZone ?? 'UTC', deps.now())
          return vanList(scope, who.personId, first, addDays(first, days - 1))
        }),
        200,
      )
    })
    .openapi(routes.tick, async (c) => {
      const who = c.get('who')
      await deps.inFirm(who.firmId, (scope) => tickVan(scope, who.personId, c.req.valid('json'), deps.now()))
      return c.json({ ok: true } as const, 200)
    })
