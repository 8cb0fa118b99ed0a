import { idSchema } from '@evenround/contract/common'
import { crossingEditSchema, crossingsSchema } from '@evenround/contract/crossing'
import { roadServerEditSchema, waysSchema } from '@evenround/contract/road-server'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, need, router } from '../../http/env'
import { body, json, PROBLEMS } from '../../http/openapi'
import { crossingsOf, dropCrossing, putCrossing } from './crossings'
import { askAgain, putRoadServer } from './roads/settings'
import { waysOf } from './ways-page'

const one = { params: z.object({ id: idSchema }) }
const all = { 200: json(crossingsSchema), ...PROBLEMS }
const ways = { 200: json(waysSchema), ...PROBLEMS }

const routes = {
  all: createRoute({ method: 'get', path: '/api/times/crossings', responses: all }),
  put: createRoute({ method: 'put', path: '/api/times/crossings/{id}', request: { ...one, ...body(crossingEditSchema) }, responses: all }),
  drop: createRoute({ method: 'delete', path: '/api/times/crossings/{id}', request: one, responses: all }),
  ways: createRoute({ method: 'get', path: '/api/times/ways', responses: ways }),
  putServer: createRoute({ method: 'put', path: '/api/times/road-server', request: body(roadServerEditSchema), responses: ways }),
  askServer: createRoute({ method: 'post', path: '/api/times/road-server/ask', responses: ways }),
}

/** The firm's own ferries, causeways and bridges with their timetables; its routing server; what its drives taught. */
export const travelRoutes = (deps: Deps) =>
  router()
    .openapi(routes.all, async (c) => c.json({ crossings: await deps.inFirm(c.get('who').firmId, crossingsOf) }, 200))
    .openapi(routes.put, async (c) => {
      need(c.get('who'), 'plan-rounds')
      const { id } = c.req.valid('param')
      const crossings = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await putCrossing(scope, id, c.req.valid('json'))
        return crossingsOf(scope)
      })
      return c.json({ crossings }, 200)
    })
    .openapi(routes.drop, async (c) => {
      need(c.get('who'), 'plan-rounds')
      const crossings = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await dropCrossing(scope, c.req.valid('param').id)
        return crossingsOf(scope)
      })
      return c.json({ crossings }, 200)
    })
    .openapi(routes.ways, async (c) => c.json(await deps.inFirm(c.get('who').firmId, (scope) => waysOf(scope, deps)), 200))
    .openapi(routes.putServer, async (c) => {
      const { firmId } = c.get('who')
      need(c.get('who'), 'change-schools')
      await deps.inFirm(firmId, (scope) => putRoadServer(scope, c.req.valid('json'), deps.roadHosts, deps.now()))
      await deps.roadsSoon(firmId)
      return c.json(await deps.inFirm(firmId, (scope) => waysOf(scope, deps)), 200)
    })
    .openapi(routes.askServer, async (c) => {
      const { firmId } = c.get('who')
      need(c.get('who'), 'plan-rounds')
      await deps.inFirm(firmId, (scope) => askAgain(scope, deps.now()))
      await deps.roadsSoon(firmId)
      return c.json(await deps.inFirm(firmId, (scope) => waysOf(scope, deps)), 200)
    })
