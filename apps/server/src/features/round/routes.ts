import { mapFeatureSchema } from '@evenround/contract/geo'
import { publicationSchema, roundTermsSchema } from '@evenround/contract/rounds'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm, Site } from '../../db/entities/master'
import { type Deps, need, router } from '../../http/env'
import { body, json, PROBLEMS } from '../../http/openapi'
import { isOnIslands, MAP } from '../travel/islands'
import { sitePlaces } from '../travel/site-places'
import { publications } from './decided'

const done = z.object({ ok: z.literal(true) })
const ok = { ok: true } as const

const routes = {
  publications: createRoute({
    method: 'get',
    path: '/api/round/publications',
    responses: { 200: json(z.object({ publications: z.array(publicationSchema) })), ...PROBLEMS },
  }),
  map: createRoute({
    method: 'get',
    path: '/api/round/map',
    responses: { 200: json(z.object({ features: z.array(mapFeatureSchema) })), ...PROBLEMS },
  }),
  terms: createRoute({
    method: 'put',
    path: '/api/round/terms',
    request: body(roundTermsSchema.strict()),
    responses: { 200: json(done), ...PROBLEMS },
  }),
}

/** What of the round is looked up without a plan being read. */
export const roundRoutes = (deps: Deps) =>
  router()
    .openapi(routes.publications, async (c) =>
      c.json({ publications: await deps.inFirm(c.get('who').firmId, (scope) => publications(scope, 200)) }, 200),
    )
    .openapi(routes.map, async (c) => {
      const places = await deps.inFirm(c.get('who').firmId, async (scope) =>
        (await sitePlaces(scope)).among((await scope.find(Site)).filter(({ goneAt }) => goneAt === null)),
      )
      const onIslands = places.some(isOnIslands)
      return c.json({ features: [...(onIslands ? MAP : []), ...(await deps.outlines(places))] }, 200)
    })
    .openapi(routes.terms, async (c) => {
      const who = c.get('who')
      need(who, 'change-schools')
      await deps.inFirm(who.firmId, (scope) => scope.update(Firm, {}, { roundTerms: c.req.valid('json') }))
      return c.json(ok, 200)
    })
