import { idSchema, workDaySchema } from '@evenround/contract/common'
import {
  changesSchema,
  draftChangeSchema,
  draftPutSchema,
  extraNewSchema,
  markNewSchema,
  moveSchema,
  publicationSchema,
  roundSetSchema,
  roundStateSchema,
  roundWeekSchema,
  todayAskSchema,
  todayPutSchema,
  todaySpotSchema,
} from '@evenround/contract/rounds'
import { hasRight } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm } from '../../db/entities/master'
import { RoundPublication, RoundRunRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { type ApartDeps, need, router, type Who } from '../../http/env'
import { ApiError, notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { noteDeed } from '../records/audit'
import { islandTravel } from '../travel/islands'
import { addExtra, addMark, dropMark, publications, settle } from './decided'
import { carry, carryOver, type Draft, openDraft, placeHeld, replacePlan, sameSet, seenDraft, setById } from './draft'
import { draftChange, roundState } from './page'
import { changesBetween, publicationOf, publish } from './publish'
import { putToday, todaySpots } from './today'
import { roundWeek } from './week'

const one = { params: z.object({ id: idSchema }) }
const state = { 200: json(roundStateSchema), ...PROBLEMS }
const change = { 200: json(draftChangeSchema), ...PROBLEMS }

const routes = {
  round: createRoute({ method: 'get', path: '/api/round', responses: { 200: json(roundStateSchema.nullable()), ...PROBLEMS } }),
  week: createRoute({
    method: 'get',
    path: '/api/round/week',
    request: { query: z.object({ week: workDaySchema.optional() }) },
    responses: { 200: json(roundWeekSchema.nullable()), ...PROBLEMS },
  }),
  open: createRoute({ method: 'post', path: '/api/round/open', responses: state }),
  set: createRoute({ method: 'get', path: '/api/round/sets/{id}', request: one, responses: { 200: json(roundSetSchema), ...PROBLEMS } }),
  fresh: createRoute({ method: 'post', path: '/api/round/fresh', responses: state }),
  move: createRoute({ method: 'post', path: '/api/round/moves', request: body(moveSchema), responses: change }),
  put: createRoute({ method: 'put', path: '/api/round/draft', request: body(draftPutSchema), responses: change }),
  mark: createRoute({ method: 'post', path: '/api/round/marks', request: body(markNewSchema), responses: state }),
  unmark: createRoute({ method: 'delete', path: '/api/round/marks/{id}', request: one, responses: state }),
  extra: createRoute({ method: 'post', path: '/api/round/extras', request: body(extraNewSchema), responses: state }),
  todaySpots: createRoute({
    method: 'post',
    path: '/api/round/today/spots',
    request: body(todayAskSchema),
    responses: { 200: json(z.object({ spots: z.array(todaySpotSchema) })), ...PROBLEMS },
  }),
  putToday: createRoute({
    method: 'post',
    path: '/api/round/today',
    request: body(todayPutSchema),
    responses: { 200: json(z.object({ id: idSchema })), ...PROBLEMS },
  }),
  publish: createRoute({
    method: 'post',
    path: '/api/round/publications',
    request: body(z.strictObject({ version: z.int() })),
    responses: { 200: json(publicationSchema), ...PROBLEMS },
  }),
  changes: createRoute({
    method: 'get',
    path: '/api/round/publications/{number}/changes',
    request: { params: z.object({ number: z.coerce.number().int().min(1).max(1_000_000) }) },
    responses: { 200: json(changesSchema), ...PROBLEMS },
  }),
  draftChanges: createRoute({ method: 'get', path: '/api/round/changes', responses: { 200: json(changesSchema), ...PROBLEMS } }),
  take: createRoute({
    method: 'post',
    path: '/api/round/runs/{id}/take',
    request: { ...one, ...body(z.strictObject({ version: z.int() })) },
    responses: { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS },
  }),
}

/** A set of this id is this set for ever. */
const FOR_EVER = 'private, max-age=31536000, immutable'

/** The firm's own day and zone, looked up once a request. */
interface Now {
  timeZone: string
  today: string
}

/** The round: its plan in the making, what people decide about it, and what is published. Each reads a whole plan. */
export const planRoutes = (deps: ApartDeps) => {
  const setDeps = () => ({ travel: islandTravel, now: deps.now(), newId: deps.newId })
  const nowOf = async (scope: FirmScope): Promise<Now> => {
    const firm = await scope.findOne(Firm, {})
    if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
    return { timeZone: firm.timeZone, today: dayIn(firm.timeZone, deps.now()) }
  }
  const opened = async (scope: FirmScope, { today }: Now, who: Who, fresh = false): Promise<Draft> =>
    openDraft(scope, setDeps(), today, who.personId, fresh)
  // Whoever does not plan sees the round as it is published, not as somebody is about to change it.
  const seenBy = (who: Who, draft: Draft): Draft =>
    hasRight(who.role, 'plan-rounds') ? draft : { ...draft, row: { ...draft.row, plan: carryOver(draft.set, [], draft.standing) } }
  const stateOf = (scope: FirmScope, { timeZone }: Now, who: Who, draft: Draft) => roundState(scope, seenBy(who, draft), timeZone)
  /** The round after something changed what is to be planned: everything is looked up anew, and what is held to a day is put there. */
  const anew = async (scope: FirmScope, now: Now, who: Who) => {
    const draft = await opened(scope, now, who, true)
    return stateOf(scope, now, who, { ...draft, row: await placeHeld(scope, draft, who, deps.now()) })
  }
  return router()
    .openapi(routes.round, async (c) => {
      const who = c.get('who')
      const seen = await deps.inFirm(who.firmId, async (scope) => {
        const now = await nowOf(scope)
        const draft = await seenDraft(scope, now.today)
        return draft && stateOf(scope, now, who, draft)
      })
      return c.json(seen, 200)
    })
    .openapi(routes.week, async (c) => {
      const who = c.get('who')
      const seen = await deps.inFirm(who.firmId, async (scope) => {
        const { today, timeZone } = await nowOf(scope)
        const draft = await seenDraft(scope, today)
        return draft && roundWeek(scope, seenBy(who, draft), c.req.valid('query').week, timeZone)
      })
      return c.json(seen, 200)
    })
    .openapi(routes.open, async (c) => {
      const who = c.get('who')
      const state = await deps.inFirm(who.firmId, async (scope) => {
        const now = await nowOf(scope)
        return stateOf(scope, now, who, await opened(scope, now, who))
      })
      return c.json(state, 200)
    })
    .openapi(routes.set, async (c) => {
      const set = await deps.inFirm(c.get('who').firmId, (scope) => setById(scope, c.req.valid('param').id))
      if (!set) throw notFound('set')
      return c.json(set, 200, { 'cache-control': FOR_EVER })
    })
    .openapi(routes.fresh, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      return c.json(await deps.inFirm(who.firmId, async (scope) => anew(scope, await nowOf(scope), who)), 200)
    })
    .openapi(routes.move, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const move = c.req.valid('json')
      const changed = await deps.inFirm(who.firmId, async (scope) => {
        const draft = await opened(scope, await nowOf(scope), who)
        sameSet(draft, move.setId)
        return draftChange(scope, draft, await carry(scope, draft, move, who, deps.now()))
      })
      return c.json(changed, 200)
    })
    .openapi(routes.put, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const { version, setId, days } = c.req.valid('json')
      const changed = await deps.inFirm(who.firmId, async (scope) => {
        const draft = await opened(scope, await nowOf(scope), who)
        sameSet(draft, setId)
        return draftChange(scope, draft, await replacePlan(scope, draft, version, days, who, deps.now()))
      })
      return c.json(changed, 200)
    })
    .openapi(routes.mark, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const answer = await deps.inFirm(who.firmId, async (scope) => {
        const now = await nowOf(scope)
        await addMark(scope, await opened(scope, now, who), c.req.valid('json'), who, deps.now())
        return anew(scope, now, who)
      })
      return c.json(answer, 200)
    })
    .openapi(routes.unmark, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const answer = await deps.inFirm(who.firmId, async (scope) => {
        await dropMark(scope, c.req.valid('param').id)
        return anew(scope, await nowOf(scope), who)
      })
      return c.json(answer, 200)
    })
    .openapi(routes.extra, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const answer = await deps.inFirm(who.firmId, async (scope) => {
        await addExtra(scope, c.req.valid('json'), who, deps.now())
        return anew(scope, await nowOf(scope), who)
      })
      return c.json(answer, 200)
    })
    .openapi(routes.todaySpots, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const spots = await deps.inFirm(who.firmId, (scope) => todaySpots(scope, setDeps(), c.req.valid('json')))
      return c.json({ spots }, 200)
    })
    .openapi(routes.putToday, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      return c.json(await deps.inFirm(who.firmId, (scope) => putToday(scope, setDeps(), c.req.valid('json'))), 200)
    })
    .openapi(routes.publish, async (c) => {
      const who = c.get('who')
      need(who, 'publish-round')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const draft = await opened(scope, await nowOf(scope), who)
          if (draft.row.version !== c.req.valid('json').version)
            throw new ApiError('STALE_VERSION', say`The plan was changed since you saw it. Look at it as it is now, then publish.`, {
              current: { version: draft.row.version },
            })
          const now = deps.now()
          const number = await publish(scope, draft, who.personId, now)
          await noteDeed(scope, deps, who, 'round-published', say`Round number ${number}`)
          return { number, publishedAt: now.toISOString(), byName: who.name }
        }),
        200,
      )
    })
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
      const answer = await deps.inFirm(c.get('who').firmId, async (scope) => {
        const draft = await seenDraft(scope, (await nowOf(scope)).today)
        const [last] = await publications(scope, 1)
        const number = last?.number ?? null
        if (!draft) return { number, changes: [] }
        const before = number === null ? null : await publicationOf(scope, number)
        return {
          number,
          changes: changesBetween(before && { set: before.set, plan: before.row.plan }, { set: draft.set, plan: draft.row.plan }),
        }
      })
      return c.json(answer, 200)
    })
    .openapi(routes.take, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      await deps.inFirm(who.firmId, async (scope) => {
        const row = await scope.findOne(RoundRunRow, { id: c.req.valid('param').id })
        if (!row?.plan) throw notFound('plan of this run')
        const draft = await opened(scope, await nowOf(scope), who)
        sameSet(draft, row.setId)
        await replacePlan(scope, draft, c.req.valid('json').version, row.plan.days, who, deps.now())
        await settle(scope, row.id, deps.now())
      })
      return c.json({ ok: true } as const, 200)
    })
}
