import { idSchema } from '@evenround/contract/common'
import { roundRunSchema } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { RoundRunRow } from '../../db/entities/round'
import { type Deps, need, router } from '../../http/env'
import { badInput, notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { callOff, hasSet, settle } from './decided'

const one = { params: z.object({ id: idSchema }) }
const run = { 200: json(roundRunSchema), ...PROBLEMS }

const routes = {
  start: createRoute({
    method: 'post',
    path: '/api/round/runs',
    request: body(z.strictObject({ id: idSchema, setId: idSchema })),
    responses: run,
  }),
  watch: createRoute({ method: 'get', path: '/api/round/runs/{id}', request: one, responses: run }),
  discard: createRoute({
    method: 'post',
    path: '/api/round/runs/{id}/discard',
    request: one,
    responses: { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS },
  }),
  cancel: createRoute({ method: 'post', path: '/api/round/runs/{id}/cancel', request: one, responses: run }),
}

const dto = ({ id, setId, state, share, cost, message, plan }: RoundRunRow) => ({ id, setId, state, share, cost, message, plan })

/** Planning a firm's round on the server: begun, watched, called off (`plan-routes.ts` takes one). Its plan comes as a proposal and changes nothing by itself. */
export const runRoutes = (deps: Deps) =>
  router()
    .openapi(routes.start, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const { id, setId } = c.req.valid('json')
      const now = deps.now()
      const row = await deps.inFirm(who.firmId, async (scope) => {
        const known = await scope.findOne(RoundRunRow, { id })
        if (known) return known
        if (!(await hasSet(scope, setId))) throw badInput([{ path: 'setId', message: say`expected what is to be planned` }])
        const begun = {
          state: 'waiting',
          share: 0,
          cost: null,
          message: '',
          parts: {},
          plan: null,
          cancelled: false,
          settledAt: null,
        } as const
        const fresh = { ...begun, id, setId, askedBy: who.personId, madeAt: now, changedAt: now }
        // One plan is offered at a time: the newest that was asked for.
        await settle(scope, null, now)
        await scope.insert(RoundRunRow, fresh)
        return { ...fresh, firmId: who.firmId }
      })
      await deps.planSoon(who.firmId, id)
      return c.json(dto(row), 200)
    })
    .openapi(routes.watch, async (c) => {
      const row = await deps.inFirm(c.get('who').firmId, (scope) => scope.findOne(RoundRunRow, { id: c.req.valid('param').id }))
      if (!row) throw notFound('run')
      return c.json(dto(row), 200)
    })
    .openapi(routes.discard, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      await deps.inFirm(who.firmId, async (scope) => {
        const { id } = c.req.valid('param')
        if (!(await scope.findOne(RoundRunRow, { id }))) throw notFound('run')
        await settle(scope, id, deps.now())
      })
      return c.json({ ok: true } as const, 200)
    })
    .openapi(routes.cancel, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const row = await deps.inFirm(who.firmId, async (scope) => {
        const { id } = c.req.valid('param')
        await callOff(scope, id)
        return scope.findOne(RoundRunRow, { id })
      })
      if (!row) throw notFound('run')
      return c.json(dto(row), 200)
    })
