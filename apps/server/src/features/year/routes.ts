import { idSchema } from '@evenround/contract/common'
import { yearAskSchema, yearPageSchema, yearWorkSchema } from '@evenround/contract/year-page'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { type ApartDeps, router } from '../../http/env'
import { ApiError } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { islandTravel } from '../travel/islands'
import { applyYear, discardYear, offer, undoYear, yearForDevice, yearPage, yearWork } from './store'

const one = { params: z.object({ id: idSchema }) }
const page = { 200: json(yearPageSchema), ...PROBLEMS }

const routes = {
  look: createRoute({ method: 'get', path: '/api/year', responses: page }),
  work: createRoute({ method: 'get', path: '/api/year/work', responses: { 200: json(yearWorkSchema), ...PROBLEMS } }),
  plan: createRoute({ method: 'post', path: '/api/year/plans', request: body(yearAskSchema), responses: page }),
  apply: createRoute({ method: 'post', path: '/api/year/plans/{id}/apply', request: one, responses: page }),
  undo: createRoute({ method: 'post', path: '/api/year/plans/{id}/undo', request: one, responses: page }),
  discard: createRoute({ method: 'post', path: '/api/year/plans/{id}/discard', request: one, responses: page }),
}

/** The year: planned, compared, applied and taken back. A plan is an offer until somebody applies it. */
export const yearRoutes = (deps: ApartDeps) => {
  const yearDeps = () => ({ travel: islandTravel, now: deps.now() })
  return router()
    .openapi(routes.look, async (c) => c.json(await deps.inFirm(c.get('who').firmId, (scope) => yearPage(scope, yearDeps())), 200))
    .openapi(routes.work, async (c) =>
      c.json({ work: await deps.inFirm(c.get('who').firmId, (scope) => yearForDevice(scope, yearDeps())) }, 200),
    )
    .openapi(routes.plan, async (c) => {
      const who = c.get('who')
      const ask = c.req.valid('json')
      // Read, worked out and kept: no transaction waits while the plan is made.
      const work = await deps.inFirm(who.firmId, (scope) => yearWork(scope, yearDeps(), ask))
      const worked = await deps.workYear(work)
      if (worked === null)
        throw new ApiError(
          'CONFLICT',
          say`It cannot be moved there: the site is shut, somebody was promised the day, or nobody works that week.`,
        )
      const seen = await deps.inFirm(who.firmId, async (scope) => {
        await offer(scope, ask, worked, who, deps.now())
        return yearPage(scope, yearDeps())
      })
      return c.json(seen, 200)
    })
    .openapi(routes.apply, async (c) => {
      const seen = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await applyYear(scope, c.req.valid('param').id, deps.now())
        return yearPage(scope, yearDeps())
      })
      return c.json(seen, 200)
    })
    .openapi(routes.undo, async (c) => {
      const seen = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await undoYear(scope, c.req.valid('param').id)
        return yearPage(scope, yearDeps())
      })
      return c.json(seen, 200)
    })
    .openapi(routes.discard, async (c) => {
      const seen = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await discardYear(scope, c.req.valid('param').id)
        return yearPage(scope, yearDeps())
      })
      return c.json(seen, 200)
    })
}
