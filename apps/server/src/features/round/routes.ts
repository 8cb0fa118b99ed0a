import { idSchema } from '@evenround/contract/common'
import { mapFeatureSchema } from '@evenround/contract/geo'
import {
  changesSchema,
  draftPutSchema,
  extraNewSchema,
  markNewSchema,
  moveSchema,
  publicationSchema,
  roundPageSchema,
  roundTermsSchema,
} from '@evenround/contract/rounds'
import { hasRight } from '@evenround/core/firm'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm, Person, System } from '../../db/entities/master'
import { RoundExtra, RoundMarkRow, RoundPublication } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { type Deps, need, router, type Who } from '../../http/env'
import { ApiError, badInput, notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { islandTravel, MAP } from '../travel/islands'
import { carry, carryOver, type Draft, openDraft, placeHeld, replacePlan, sameSet } from './draft'
import { roundPage } from './page'
import { changesBetween, publicationOf, publish } from './publish'

const one = { params: z.object({ id: idSchema }) }
const done = z.object({ ok: z.literal(true) })
const ok = { ok: true } as const
const page = { 200: json(roundPageSchema), ...PROBLEMS }

const routes = {
  round: createRoute({ method: 'get', path: '/api/round', responses: page }),
  fresh: createRoute({ method: 'post', path: '/api/round/fresh', responses: page }),
  move: createRoute({ method: 'post', path: '/api/round/moves', request: body(moveSchema), responses: page }),
  put: createRoute({ method: 'put', path: '/api/round/draft', request: body(draftPutSchema), responses: page }),
  mark: createRoute({ method: 'post', path: '/api/round/marks', request: body(markNewSchema), responses: page }),
  unmark: createRoute({ method: 'delete', path: '/api/round/marks/{id}', request: one, responses: page }),
  extra: createRoute({ method: 'post', path: '/api/round/extras', request: body(extraNewSchema), responses: page }),
  publish: createRoute({
    method: 'post',
    path: '/api/round/publications',
    request: body(z.strictObject({ version: z.int() })),
    responses: { 200: json(publicationSchema), ...PROBLEMS },
  }),
  publications: createRoute({
    method: 'get',
    path: '/api/round/publications',
    responses: { 200: json(z.object({ publications: z.array(publicationSchema) })), ...PROBLEMS },
  }),
  changes: createRoute({
    method: 'get',
    path: '/api/round/publications/{number}/changes',
    request: { params: z.object({ number: z.coerce.number().int().min(1).max(1_000_000) }) },
    responses: { 200: json(changesSchema), ...PROBLEMS },
  }),
  draftChanges: createRoute({ method: 'get', path: '/api/round/changes', responses: { 200: json(changesSchema), ...PROBLEMS } }),
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

/** The round: its plan in the making, what people decide about it, and what is published. */
export const roundRoutes = (deps: Deps) => {
  const setDeps = () => ({ travel: islandTravel, now: deps.now(), newId: deps.newId })
  const opened = async (scope: FirmScope, who: Who, fresh = false): Promise<{ draft: Draft; firm: Firm }> => {
    const firm = await scope.findOne(Firm, {})
    if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
    return { draft: await openDraft(scope, setDeps(), dayIn(firm.timeZone, deps.now()), who.personId, fresh), firm }
  }
  /** The page after something changed what is to be planned: everything is looked up anew, and what is held to a day is put there. */
  const anew = async (scope: FirmScope, who: Who) => {
    const { draft, firm } = await opened(scope, who, true)
    const row = await placeHeld(scope, draft, who, deps.now())
    return roundPage(scope, { ...draft, row }, firm.timeZone)
  }
  return router()
    .openapi(routes.round, async (c) => {
      const who = c.get('who')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const { draft, firm } = await opened(scope, who)
          // Whoever does not plan sees the round as it is published, not as somebody is about to change it.
          const row = hasRight(who.role, 'plan-rounds') ? draft.row : { ...draft.row, plan: carryOver(draft.set, [], draft.standing) }
          return roundPage(scope, { ...draft, row }, firm.timeZone)
        }),
        200,
      )
    })
    .openapi(routes.fresh, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      return c.json(await deps.inFirm(who.firmId, (scope) => anew(scope, who)), 200)
    })
    .openapi(routes.move, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const move = c.req.valid('json')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const { draft, firm } = await opened(scope, who)
          sameSet(draft, move.setId)
          return roundPage(scope, { ...draft, row: await carry(scope, draft, move, who, deps.now()) }, firm.timeZone)
        }),
        200,
      )
    })
    .openapi(routes.put, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const { version, setId, days } = c.req.valid('json')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const { draft, firm } = await opened(scope, who)
          sameSet(draft, setId)
          return roundPage(scope, { ...draft, row: await replacePlan(scope, draft, version, days, who, deps.now()) }, firm.timeZone)
        }),
        200,
      )
    })
    .openapi(routes.mark, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const { window, ...mark } = c.req.valid('json')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const { draft } = await opened(scope, who)
          if (draft.set.visits.every(({ id }) => id !== mark.visitId))
            throw badInput([{ path: 'visitId', message: 'expected a visit of the round as it is now' }])
          if (mark.kind !== 'not-before' && !draft.set.days.includes(mark.day))
            throw badInput([{ path: 'day', message: `expected a day on which somebody is on the road, got ${mark.day}` }])
          if (!(await scope.findOne(RoundMarkRow, { id: mark.id }))) {
            // One day is held at a time; a promise in a pin's stead takes it away.
            if (mark.kind === 'pin' || mark.kind === 'promise')
              await scope.query(`delete from round_mark where firm_id = $1 and visit_id = $2 and kind in ('pin', 'promise')`, [
                mark.visitId,
              ])
            await scope.insert(RoundMarkRow, {
              ...mark,
              fromMin: window?.[0] ?? null,
              toMin: window?.[1] ?? null,
              madeBy: who.personId,
              madeAt: deps.now(),
            })
          }
          return anew(scope, who)
        }),
        200,
      )
    })
    .openapi(routes.unmark, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          if (!(await scope.findOne(RoundMarkRow, { id: c.req.valid('param').id }))) throw notFound('mark')
          await scope.query('delete from round_mark where firm_id = $1 and id = $2', [c.req.valid('param').id])
          return anew(scope, who)
        }),
        200,
      )
    })
    .openapi(routes.extra, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const extra = c.req.valid('json')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const system = await scope.findOne(System, { id: extra.systemId })
          if (!system) throw badInput([{ path: 'systemId', message: 'expected a system of this firm' }])
          if (extra.toDay < extra.fromDay) throw badInput([{ path: 'toDay', message: 'expected a last day no sooner than the first' }])
          if (!(await scope.findOne(RoundExtra, { id: extra.id })))
            await scope.insert(RoundExtra, { ...extra, siteId: system.siteId, madeBy: who.personId, madeAt: deps.now() })
          return anew(scope, who)
        }),
        200,
      )
    })
    .openapi(routes.publish, async (c) => {
      const who = c.get('who')
      need(who, 'publish-round')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const { draft } = await opened(scope, who)
          if (draft.row.version !== c.req.valid('json').version)
            throw new ApiError('STALE_VERSION', 'The plan was changed since you saw it. Look at it as it is now, then publish.', {
              current: { version: draft.row.version },
            })
          const now = deps.now()
          const number = await publish(scope, draft, who.personId, now)
          return { number, publishedAt: now.toISOString(), byName: who.name }
        }),
        200,
      )
    })
    .openapi(routes.publications, async (c) =>
      c.json(
        await deps.inFirm(c.get('who').firmId, async (scope) => {
          const names = new Map((await scope.find(Person)).map(({ id, name }) => [id, name]))
          const rows = await scope.query<Pick<RoundPublication, 'number'> & { published_by: string; published_at: Date }>(
            'select number, published_by, published_at from round_publication where firm_id = $1 order by number desc limit 200',
          )
          return {
            publications: rows.map(({ number, published_at, published_by }) => ({
              number,
              publishedAt: published_at.toISOString(),
              byName: names.get(published_by) ?? '',
            })),
          }
        }),
        200,
      ),
    )
    .openapi(routes.changes, async (c) =>
      c.json(
        await deps.inFirm(c.get('who').firmId, async (scope) => {
          const { number } = c.req.valid('param')
          const found = await scope.findOne(RoundPublication, { number })
          if (!found) throw notFound('publication')
          return { number, changes: found.changes }
        }),
        200,
      ),
    )
    .openapi(routes.draftChanges, async (c) => {
      const who = c.get('who')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const { draft } = await opened(scope, who)
          const [last] = await scope.query<{ number: number }>(
            'select number from round_publication where firm_id = $1 order by number desc limit 1',
          )
          const before = last ? await publicationOf(scope, last.number) : null
          return {
            number: last?.number ?? null,
            changes: changesBetween(before && { set: before.set, plan: before.row.plan }, { set: draft.set, plan: draft.row.plan }),
          }
        }),
        200,
      )
    })
    .openapi(routes.map, async (c) => c.json({ features: [...MAP] }, 200))
    .openapi(routes.terms, async (c) => {
      const who = c.get('who')
      need(who, 'change-schools')
      await deps.inFirm(who.firmId, (scope) => scope.update(Firm, {}, { roundTerms: c.req.valid('json') }))
      return c.json(ok, 200)
    })
}
