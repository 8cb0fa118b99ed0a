import { dueQuerySchema } from '@evenround/contract/due'
import { hindsightSchema, ruleChoiceSchema, rulePreviewSchema } from '@evenround/contract/wear'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm } from '../../db/entities/master'
import { type ApartDeps, need, router } from '../../http/env'
import { body, json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { noteDeed } from '../records/audit'
import { dueCsv } from './due-csv'
import { hindsightPage } from './hindsight'
import { previewRule } from './preview'

const routes = {
  preview: createRoute({
    method: 'post',
    path: '/api/due-rules/preview',
    request: body(ruleChoiceSchema),
    responses: { 200: json(rulePreviewSchema), ...PROBLEMS },
  }),
  csv: createRoute({
    method: 'get',
    path: '/api/due.csv',
    request: { query: dueQuerySchema },
    responses: { 200: { description: 'the list as CSV', content: { 'text/csv': { schema: z.string() } } }, ...PROBLEMS },
  }),
  hindsight: createRoute({ method: 'get', path: '/api/due-rules/hindsight', responses: { 200: json(hindsightSchema), ...PROBLEMS } }),
}

/** What reads every stage of a firm, or forecasts many of them. */
export const wearListRoutes = (deps: ApartDeps) =>
  router()
    .openapi(routes.preview, async (c) => {
      need(c.get('who'), 'change-schools')
      return c.json(await deps.inFirm(c.get('who').firmId, (scope) => previewRule(scope, c.req.valid('json'), deps.now())), 200)
    })
    .openapi(routes.csv, async (c) => {
      need(c.get('who'), 'export')
      const text = await deps.inFirm(c.get('who').firmId, async (scope) => {
        const firm = await scope.findOne(Firm, {})
        await noteDeed(scope, deps, c.get('who'), 'list-exported', say`What is due, as CSV`)
        return dueCsv(scope, c.req.valid('query'), dayIn(firm?.timeZone ?? 'UTC', deps.now()))
      })
      return c.text(text, 200, { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="due.csv"' })
    })
    .openapi(routes.hindsight, async (c) =>
      c.json(await hindsightPage(deps.inFirm, c.get('who').firmId, deps.now(), deps.inHindsight), 200),
    )
