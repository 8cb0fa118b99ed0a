import { idSchema } from '@evenround/contract/common'
import { duePageSchema, dueQuerySchema, stagePageSchema } from '@evenround/contract/due'
import { dueRulesSchema, ruleChoiceSchema, schoolChoiceSchema, useChoiceSchema } from '@evenround/contract/wear'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm, Site, Stage } from '../../db/entities/master'
import { type Deps, need, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { duePage } from './due'
import { chooseRule, dueRules, stateUse } from './rules'
import { stagePage } from './stage-page'
import { markSite, markSystems } from './stale'

const one = { params: z.object({ id: idSchema }) }
const done = z.object({ ok: z.literal(true) })
const ok = { ok: true } as const

const routes = {
  due: createRoute({
    method: 'get',
    path: '/api/due',
    request: { query: dueQuerySchema },
    responses: { 200: json(duePageSchema), ...PROBLEMS },
  }),
  stage: createRoute({ method: 'get', path: '/api/stages/{id}', request: one, responses: { 200: json(stagePageSchema), ...PROBLEMS } }),
  stageSchool: createRoute({
    method: 'put',
    path: '/api/stages/{id}/school',
    request: { ...one, ...body(schoolChoiceSchema) },
    responses: { 200: json(done), ...PROBLEMS },
  }),
  siteSchool: createRoute({
    method: 'put',
    path: '/api/sites/{id}/school',
    request: { ...one, ...body(schoolChoiceSchema) },
    responses: { 200: json(done), ...PROBLEMS },
  }),
  rules: createRoute({ method: 'get', path: '/api/due-rules', responses: { 200: json(dueRulesSchema), ...PROBLEMS } }),
  chooseRule: createRoute({
    method: 'put',
    path: '/api/due-rules',
    request: body(ruleChoiceSchema),
    responses: { 200: json(done), ...PROBLEMS },
  }),
  stateUse: createRoute({ method: 'put', path: '/api/uses', request: body(useChoiceSchema), responses: { 200: json(done), ...PROBLEMS } }),
}

/** Forecasts as lists and pages, the rules of the day to change, and the school they follow. */
export const wearRoutes = (deps: Deps) =>
  router()
    .openapi(routes.due, async (c) =>
      c.json(
        await deps.inFirm(c.get('who').firmId, async (scope) => {
          const firm = await scope.findOne(Firm, {})
          return duePage(scope, c.req.valid('query'), dayIn(firm?.timeZone ?? 'UTC', deps.now()))
        }),
        200,
      ),
    )
    .openapi(routes.stage, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => stagePage(scope, c.req.valid('param').id, deps.now())), 200),
    )
    .openapi(routes.stageSchool, async (c) => {
      need(c.get('who'), 'change-schools')
      const { id } = c.req.valid('param')
      const { firmId } = c.get('who')
      await deps.inFirm(firmId, async (scope) => {
        const stage = await scope.findOne(Stage, { id })
        if (!stage) throw notFound('stage')
        await scope.update(Stage, { id }, { changeSchool: c.req.valid('json').school })
        await markSystems(scope, deps.now(), [stage.systemId])
      })
      await deps.refreshSoon(firmId)
      return c.json(ok, 200)
    })
    .openapi(routes.siteSchool, async (c) => {
      need(c.get('who'), 'change-schools')
      const { id } = c.req.valid('param')
      const { firmId } = c.get('who')
      await deps.inFirm(firmId, async (scope) => {
        if ((await scope.update(Site, { id }, { changeSchool: c.req.valid('json').school })) === 0) throw notFound('site')
        await markSite(scope, deps.now(), id)
      })
      await deps.refreshSoon(firmId)
      return c.json(ok, 200)
    })
    .openapi(routes.rules, async (c) => c.json(await deps.inFirm(c.get('who').firmId, dueRules), 200))
    .openapi(routes.chooseRule, async (c) => {
      need(c.get('who'), 'change-schools')
      const { firmId } = c.get('who')
      await deps.inFirm(firmId, (scope) => chooseRule(scope, c.req.valid('json'), deps.now()))
      await deps.refreshSoon(firmId)
      return c.json(ok, 200)
    })
    .openapi(routes.stateUse, async (c) => {
      need(c.get('who'), 'record-facts')
      const { firmId } = c.get('who')
      await deps.inFirm(firmId, (scope) => stateUse(scope, c.req.valid('json'), deps.now()))
      await deps.refreshSoon(firmId)
      return c.json(ok, 200)
    })
