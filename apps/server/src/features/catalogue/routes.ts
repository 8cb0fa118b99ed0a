import { idSchema, standardMediumSchema } from '@evenround/contract/common'
import { kindEditSchema, kindNewSchema, kindSchema } from '@evenround/contract/kinds'
import { partsDoneSchema, partsListSchema, partsPreviewSchema } from '@evenround/contract/parts-list'
import {
  mediumEditSchema,
  mediumProfileSchema,
  partEditedSchema,
  partEditSchema,
  partNewSchema,
  partSchema,
} from '@evenround/contract/shelf'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Part } from '../../db/entities/master'
import { breach } from '../../db/errors'
import { type Deps, need, router } from '../../http/env'
import { ApiError, notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { editVersioned } from '../../http/versions'
import { knownMedium } from '../wear/kinds'
import { addKind, editKind } from './kinds'
import { editMedium, mediumDto } from './media'
import { bringPartsIn, previewParts } from './parts-list'
import { correctFitted, partDto, ratedColumns, setEquivalents } from './store'

const routes = {
  add: createRoute({ method: 'post', path: '/api/parts', request: body(partNewSchema), responses: { 200: json(partSchema), ...PROBLEMS } }),
  edit: createRoute({
    method: 'put',
    path: '/api/parts/{id}',
    request: { params: z.object({ id: idSchema }), ...body(partEditSchema) },
    responses: { 200: json(partEditedSchema), ...PROBLEMS },
  }),
  checkList: createRoute({
    method: 'post',
    path: '/api/parts/list/check',
    request: body(partsListSchema),
    responses: { 200: json(partsPreviewSchema), ...PROBLEMS },
  }),
  list: createRoute({
    method: 'post',
    path: '/api/parts/list',
    request: body(partsListSchema),
    responses: { 200: json(partsDoneSchema), ...PROBLEMS },
  }),
  editMedium: createRoute({
    method: 'put',
    path: '/api/media/{media}',
    request: { params: z.object({ media: standardMediumSchema }), ...body(mediumEditSchema) },
    responses: { 200: json(mediumProfileSchema), ...PROBLEMS },
  }),
  addKind: createRoute({
    method: 'post',
    path: '/api/kinds',
    request: body(kindNewSchema),
    responses: { 200: json(kindSchema), ...PROBLEMS },
  }),
  editKind: createRoute({
    method: 'put',
    path: '/api/kinds/{name}',
    request: { params: z.object({ name: z.string().min(1).max(60) }), ...body(kindEditSchema) },
    responses: { 200: json(kindSchema), ...PROBLEMS },
  }),
}

/** A part number is a name: two parts of one firm never share it. */
const taken = (error: unknown, partNumber: string): unknown =>
  breach(error) === 'unique'
    ? String((error as { constraint?: unknown }).constraint) === 'part_barcode'
      ? new ApiError('CONFLICT', say`This bar code is that of another part already.`, {
          fields: [{ path: 'barcode', message: say`that of another part` }],
        })
      : new ApiError('CONFLICT', say`There is a part ${partNumber} already.`, {
          fields: [{ path: 'partNumber', message: say`taken by another part` }],
        })
    : error

/** The firm's catalogue: lives, capacities, part numbers and prices are its own. What is fitted keeps what it was rated at. */
export const catalogueRoutes = (deps: Deps) =>
  router()
    .openapi(routes.add, async (c) => {
      need(c.get('who'), 'edit-catalogue')
      const { rated, ...input } = c.req.valid('json')
      try {
        return await deps.inFirm(c.get('who').firmId, async (scope) => {
          await knownMedium(scope, input.media)
          await scope.insert(Part, { ...input, ...ratedColumns(rated), version: 1 })
          return c.json({ ...input, rated, equivalents: [], version: 1 }, 200)
        })
      } catch (error) {
        throw taken(error, input.partNumber)
      }
    })
    .openapi(routes.edit, async (c) => {
      const who = c.get('who')
      need(who, 'change-ratings')
      const { id } = c.req.valid('param')
      const { version, rated, fittedToo, equivalents, ...fields } = c.req.valid('json')
      try {
        const answer = await deps.inFirm(who.firmId, async (scope) => {
          const before = await scope.findOne(Part, { id })
          if (!before) throw notFound('part')
          const part = await editVersioned(
            scope,
            Part,
            { id, version, patch: { ...fields, ...ratedColumns(rated) }, what: 'part' },
            (row) => partDto(row, equivalents),
          )
          await setEquivalents(scope, before, equivalents)
          const correction = { partId: id, before: partDto(before).rated, after: rated, personId: who.personId, deviceId: who.sessionId }
          const corrected = fittedToo ? await correctFitted(scope, { ...correction, now: deps.now(), newId: deps.newId }) : 0
          return { part, corrected }
        })
        if (answer.corrected > 0) await deps.refreshSoon(who.firmId)
        return c.json(answer, 200)
      } catch (error) {
        throw taken(error, fields.partNumber)
      }
    })
    .openapi(routes.checkList, async (c) => {
      need(c.get('who'), 'edit-catalogue')
      return c.json(await deps.inFirm(c.get('who').firmId, (scope) => previewParts(scope, c.req.valid('json'))), 200)
    })
    .openapi(routes.list, async (c) => {
      need(c.get('who'), 'edit-catalogue')
      const done = await deps.inFirm(c.get('who').firmId, (scope) => bringPartsIn(scope, c.req.valid('json'), deps.newId))
      return c.json(done, 200)
    })
    .openapi(routes.editMedium, async (c) => {
      const who = c.get('who')
      need(who, 'change-ratings')
      const { media } = c.req.valid('param')
      const edited = await deps.inFirm(who.firmId, (scope) => editMedium(scope, media, c.req.valid('json'), deps.now()))
      await deps.refreshSoon(who.firmId)
      return c.json(mediumDto(media, edited), 200)
    })
    .openapi(routes.addKind, async (c) => {
      const who = c.get('who')
      need(who, 'change-ratings')
      return c.json(await deps.inFirm(who.firmId, (scope) => addKind(scope, c.req.valid('json'))), 200)
    })
    .openapi(routes.editKind, async (c) => {
      const who = c.get('who')
      need(who, 'change-ratings')
      const { name } = c.req.valid('param')
      const at = { personId: who.personId, now: deps.now() }
      const edited = await deps.inFirm(who.firmId, (scope) => editKind(scope, name, c.req.valid('json'), at))
      await deps.refreshSoon(who.firmId)
      return c.json(edited, 200)
    })
