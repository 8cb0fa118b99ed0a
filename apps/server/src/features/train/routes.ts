import { idSchema } from '@evenround/contract/common'
import { systemNewSchema, trainChangesSchema, trainEditSchema, trainPageSchema } from '@evenround/contract/train-edit'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, need, router } from '../../http/env'
import { body, json, PROBLEMS } from '../../http/openapi'
import { addSystem, mergeTrainEdit, saveTrain, trainPage } from './store'

const one = { params: z.object({ id: idSchema }) }
const answers = { 200: json(trainPageSchema), ...PROBLEMS }
const routes = {
  page: createRoute({ method: 'get', path: '/api/systems/{id}/train', request: one, responses: answers }),
  save: createRoute({ method: 'put', path: '/api/systems/{id}/train', request: { ...one, ...body(trainEditSchema) }, responses: answers }),
  changes: createRoute({
    method: 'post',
    path: '/api/systems/{id}/changes',
    request: { ...one, ...body(trainChangesSchema) },
    responses: { 200: json(z.object({ theirs: z.array(z.string()) })), ...PROBLEMS },
  }),
  add: createRoute({ method: 'post', path: '/api/systems', request: body(systemNewSchema), responses: answers }),
}

/** A customer's plumbing as master data, kept by version. */
export const trainRoutes = (deps: Deps) =>
  router()
    .openapi(routes.page, async (c) => {
      const { id } = c.req.valid('param')
      return c.json(await deps.inFirm(c.get('who').firmId, (scope) => trainPage(scope, id)), 200)
    })
    .openapi(routes.save, async (c) => {
      need(c.get('who'), 'mend-at-door')
      const { firmId, personId } = c.get('who')
      const saved = await deps.inFirm(firmId, (scope) =>
        saveTrain(scope, c.req.valid('param').id, c.req.valid('json'), { personId, now: deps.now() }),
      )
      await deps.refreshSoon(firmId)
      return c.json(saved, 200)
    })
    .openapi(routes.changes, async (c) => {
      need(c.get('who'), 'mend-at-door')
      const { firmId, personId } = c.get('who')
      const theirs = await deps.inFirm(firmId, (scope) =>
        mergeTrainEdit(scope, c.req.valid('param').id, c.req.valid('json'), { personId, now: deps.now() }),
      )
      await deps.refreshSoon(firmId)
      return c.json({ theirs }, 200)
    })
    .openapi(routes.add, async (c) => {
      need(c.get('who'), 'edit-sites')
      const { firmId } = c.get('who')
      const added = await deps.inFirm(firmId, (scope) => addSystem(scope, c.req.valid('json'), deps.now()))
      await deps.refreshSoon(firmId)
      return c.json(added, 200)
    })
