import { idSchema } from '@evenround/contract/common'
import { photoPlaceSchema } from '@evenround/contract/photo'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Site, Stage, System } from '../../db/entities/master'
import { breach } from '../../db/errors'
import { type Deps, need, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { json, PROBLEMS } from '../../http/openapi'
import { filedAt } from '../records/filing'
import { keptPicture } from './picture'
import { databasePhotos } from './store'

const one = z.object({ id: idSchema })
const picture = z.any().openapi({ type: 'string', format: 'binary' })

const routes = {
  put: createRoute({
    method: 'put',
    path: '/api/photos/{id}',
    request: { params: one, query: photoPlaceSchema, body: { content: { 'image/jpeg': { schema: picture } }, required: true } },
    responses: { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS },
  }),
  get: createRoute({
    method: 'get',
    path: '/api/photos/{id}',
    request: { params: one },
    responses: { 200: { description: 'The picture', content: { 'image/jpeg': { schema: picture } } }, ...PROBLEMS },
  }),
}

/** Photos of what was found. An id made by the device makes a repeat harmless; what is kept is smaller than what came and says nothing of the camera. */
export const photoRoutes = (deps: Deps) =>
  router()
    .openapi(routes.put, async (c) => {
      const who = c.get('who')
      need(who, 'record-facts')
      const { id } = c.req.valid('param')
      const place = c.req.valid('query')
      const kept = await keptPicture(await c.req.arrayBuffer(), who.firmId)
      try {
        await deps.inFirm(who.firmId, async (scope) => {
          const { what, systemId = null, stageId = null, visitId = null, takenAt } = place
          const about =
            what === 'finding' ? await scope.findOne(Stage, { id: stageId ?? '' }) : await scope.findOne(System, { id: systemId ?? '' })
          if (!about || !(await scope.findOne(Site, { id: place.siteId }))) throw notFound(what === 'finding' ? 'stage' : 'system')
          const siteId = await filedAt(scope, { siteId: place.siteId, at: takenAt, visitId, systemId, stageId })
          await databasePhotos(scope).put(id, { siteId, visitId, stageId, systemId, what, takenAt }, who.personId, deps.now(), kept)
        })
      } catch (error) {
        throw breach(error) === 'reference' ? notFound('stage') : error
      }
      return c.json({ ok: true } as const, 200)
    })
    .openapi(routes.get, async (c) => {
      const bytes = await deps.inFirm(c.get('who').firmId, (scope) => databasePhotos(scope).get(c.req.valid('param').id))
      if (bytes === null) throw notFound('photo')
      // A photo never changes under its id; only this person's browser may keep it.
      return c.body(new Uint8Array(bytes), 200, { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=604800, immutable' })
    })
