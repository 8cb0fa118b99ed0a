import { idSchema } from '@evenround/contract/common'
import { auditSchema, backupsSchema, firmFileSchema, looksSchema } from '@evenround/contract/export'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type Deps, need, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { json, PROBLEMS } from '../../http/openapi'
import { noteDeed, recorded } from '../records/audit'
import { looksOf } from '../records/looks'
import { backupsOf } from './backups'
import { askFile, dropOldFiles, fileOf, partOf } from './store'

const state = { 200: json(z.object({ file: firmFileSchema.nullable() })), ...PROBLEMS }
const zip = z.any().openapi({ type: 'string', format: 'binary' })
const routes = {
  state: createRoute({ method: 'get', path: '/api/firm-file', responses: state }),
  ask: createRoute({ method: 'post', path: '/api/firm-file', responses: state }),
  fetch: createRoute({
    method: 'get',
    path: '/api/firm-file/{id}',
    request: { params: z.object({ id: idSchema }) },
    responses: { 200: { description: 'Everything the firm keeps', content: { 'application/zip': { schema: zip } } }, ...PROBLEMS },
  }),
  audit: createRoute({
    method: 'get',
    path: '/api/audit',
    responses: { 200: json(z.object({ deeds: z.array(auditSchema) })), ...PROBLEMS },
  }),
  looks: createRoute({ method: 'get', path: '/api/audit/looks', responses: { 200: json(looksSchema), ...PROBLEMS } }),
  backups: createRoute({ method: 'get', path: '/api/backups', responses: { 200: json(backupsSchema), ...PROBLEMS } }),
}

/** The whole firm in one file, and the record of who took or erased what. */
export const exportRoutes = (deps: Deps) =>
  router()
    .openapi(routes.state, async (c) => {
      const who = c.get('who')
      need(who, 'export-firm')
      return c.json({ file: await deps.inFirm(who.firmId, (scope) => fileOf(scope, deps.now())) }, 200)
    })
    .openapi(routes.ask, async (c) => {
      const who = c.get('who')
      need(who, 'export-firm')
      const id = deps.newId()
      const file = await deps.inFirm(who.firmId, async (scope) => {
        await askFile(scope, id, who.personId, deps.now())
        await noteDeed(scope, deps, who, 'firm-exported', say`Asked for the whole firm’s file.`)
        return fileOf(scope, deps.now())
      })
      await deps.makeFileSoon(who.firmId, id)
      return c.json({ file }, 200)
    })
    .openapi(routes.fetch, async (c) => {
      const who = c.get('who')
      need(who, 'export-firm')
      const { id } = c.req.valid('param')
      const file = await deps.inFirm(who.firmId, async (scope) => {
        await dropOldFiles(scope, deps.now())
        return fileOf(scope, deps.now())
      })
      if (file?.id !== id || file.state !== 'made' || file.bytes === null) throw notFound('file')
      let no = 0
      // A piece when the reader has room for one: a slow line holds a megabyte and no connection of the database.
      const pieces = new ReadableStream<Uint8Array>({
        async pull(controller) {
          const bytes = await deps.inFirm(who.firmId, (scope) => partOf(scope, id, no))
          no += 1
          if (bytes === null) controller.close()
          else controller.enqueue(new Uint8Array(bytes))
        },
      })
      return c.body(pieces, 200, {
        'content-type': 'application/zip',
        'content-length': String(file.bytes),
        'content-disposition': `attachment; filename="even-round-${file.askedAt.slice(0, 10)}.zip"`,
        'cache-control': 'no-store',
      })
    })
    .openapi(routes.audit, async (c) => {
      const who = c.get('who')
      need(who, 'export-firm')
      return c.json({ deeds: await deps.inFirm(who.firmId, recorded) }, 200)
    })
    .openapi(routes.looks, async (c) => {
      const who = c.get('who')
      need(who, 'export-firm')
      return c.json(await deps.inFirm(who.firmId, (scope) => looksOf(scope, deps.now())), 200)
    })
    .openapi(routes.backups, async (c) => {
      const who = c.get('who')
      need(who, 'export-firm')
      return c.json(await deps.inFirm(who.firmId, backupsOf), 200)
    })
