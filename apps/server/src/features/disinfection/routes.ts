import { idSchema } from '@evenround/contract/common'
import {
  certificateSchema,
  chlorineEditSchema,
  chlorineSchema,
  disinfectionsSchema,
  laboratoryFileSchema,
  laboratoryReadSchema,
} from '@evenround/contract/disinfections'
import { jobState } from '@evenround/core/job'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Disinfection } from '../../db/entities/disinfection'
import { Firm } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { type Deps, need, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { jobFacts } from '../facts/job'
import { standInLaboratory } from './laboratory'
import { certificateOf, chlorineProducts, disinfectionRows, putChlorine, readLaboratoryFile } from './store'

const one = { params: z.object({ id: idSchema }) }
const routes = {
  list: createRoute({
    method: 'get',
    path: '/api/disinfections',
    request: { query: z.object({ site: idSchema.optional() }) },
    responses: { 200: json(disinfectionsSchema), ...PROBLEMS },
  }),
  certificate: createRoute({
    method: 'get',
    path: '/api/disinfections/{id}/certificate',
    request: one,
    responses: { 200: json(certificateSchema), ...PROBLEMS },
  }),
  laboratory: createRoute({
    method: 'get',
    path: '/api/disinfections/{id}/laboratory',
    request: one,
    responses: { 200: { description: 'the laboratory’s file', content: { 'text/csv': { schema: z.string() } } }, ...PROBLEMS },
  }),
  chlorine: createRoute({
    method: 'get',
    path: '/api/chlorine',
    responses: { 200: json(z.object({ products: z.array(chlorineSchema) })), ...PROBLEMS },
  }),
  putChlorine: createRoute({
    method: 'put',
    path: '/api/chlorine/{id}',
    request: { ...one, ...body(chlorineEditSchema) },
    responses: { 200: json(chlorineSchema), ...PROBLEMS },
  }),
  readFile: createRoute({
    method: 'post',
    path: '/api/laboratory/read',
    request: body(laboratoryFileSchema),
    responses: { 200: json(laboratoryReadSchema), ...PROBLEMS },
  }),
  schema: createRoute({
    method: 'get',
    path: '/api/schemas/disinfection-certificate',
    responses: { 200: json(z.record(z.string(), z.unknown())), ...PROBLEMS },
  }),
}

async function todayOf(scope: FirmScope, deps: Deps): Promise<string> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw notFound('firm')
  return dayIn(firm.timeZone, deps.now())
}

export const disinfectionRoutes = (deps: Deps) =>
  router()
    .openapi(routes.list, async (c) => {
      const { site } = c.req.valid('query')
      const page = await deps.inFirm(c.get('who').firmId, async (scope) => {
        return { today: await todayOf(scope, deps), rows: await disinfectionRows(scope, site) }
      })
      return c.json(page, 200)
    })
    .openapi(routes.certificate, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, (scope) => certificateOf(scope, c.req.valid('param').id)), 200),
    )
    .openapi(routes.laboratory, async (c) => {
      const { id } = c.req.valid('param')
      const sample = await deps.inFirm(c.get('who').firmId, async (scope) => {
        if (!(await scope.findOne(Disinfection, { id }))) throw notFound('disinfection')
        return jobState((await jobFacts(scope, id)).map(({ fact }) => fact)).sample
      })
      const bottles = sample ? [{ bottle: sample.bottle, takenAt: new Date(sample.at) }] : []
      return c.text(await standInLaboratory.results(bottles, deps.now()), 200, { 'content-type': 'text/csv; charset=utf-8' })
    })
    .openapi(routes.chlorine, async (c) =>
      c.json(
        { products: await deps.inFirm(c.get('who').firmId, async (scope) => chlorineProducts(scope, await todayOf(scope, deps))) },
        200,
      ),
    )
    .openapi(routes.putChlorine, async (c) => {
      need(c.get('who'), 'edit-catalogue')
      return c.json(
        await deps.inFirm(c.get('who').firmId, async (scope) =>
          putChlorine(scope, c.req.valid('param').id, c.req.valid('json'), await todayOf(scope, deps)),
        ),
        200,
      )
    })
    .openapi(routes.readFile, (c) => c.json(readLaboratoryFile(c.req.valid('json').text), 200))
    .openapi(routes.schema, (c) => c.json(z.toJSONSchema(certificateSchema) as Record<string, unknown>, 200))
