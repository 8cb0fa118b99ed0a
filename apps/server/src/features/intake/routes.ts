import { idSchema } from '@evenround/contract/common'
import {
  type IntakeDto,
  intakeCheckSchema,
  intakeNewSchema,
  intakePreviewSchema,
  intakeSchema,
  intakesSchema,
} from '@evenround/contract/intake'
import { isUnderWay } from '@evenround/contract/lists'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Intake } from '../../db/entities/intake'
import { Person } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { type Deps, need, router } from '../../http/env'
import { ApiError, notFound } from '../../http/errors'
import { FairGate } from '../../http/gate'
import { body, json, PROBLEMS } from '../../http/openapi'
import { readSheet } from './read'
import { takeBack } from './undo'
import { askToStop } from './work'

const NOTHING = { sites: 0, systems: 0, parts: 0, undated: 0, readings: 0 }

const routes = {
  list: createRoute({ method: 'get', path: '/api/intakes', responses: { 200: json(intakesSchema), ...PROBLEMS } }),
  check: createRoute({
    method: 'post',
    path: '/api/intakes/check',
    request: body(intakeCheckSchema),
    responses: { 200: json(intakePreviewSchema), ...PROBLEMS },
  }),
  add: createRoute({
    method: 'post',
    path: '/api/intakes',
    request: body(intakeNewSchema),
    responses: { 200: json(intakeSchema), ...PROBLEMS },
  }),
  one: createRoute({
    method: 'get',
    path: '/api/intakes/{id}',
    request: { params: z.object({ id: idSchema }) },
    responses: { 200: json(intakeSchema), ...PROBLEMS },
  }),
  stop: createRoute({
    method: 'post',
    path: '/api/intakes/{id}/stop',
    request: { params: z.object({ id: idSchema }) },
    responses: { 200: json(intakeSchema), ...PROBLEMS },
  }),
  undo: createRoute({
    method: 'post',
    path: '/api/intakes/{id}/undo',
    request: { params: z.object({ id: idSchema }) },
    responses: { 200: json(intakeSchema), ...PROBLEMS },
  }),
}

const dto = (row: Intake, personName: string): IntakeDto => ({
  id: row.id,
  name: row.name,
  personName,
  at: row.at.toISOString(),
  counts: row.counts,
  undoneAt: row.undoneAt?.toISOString() ?? null,
  kept: row.kept,
  state: row.state,
  progress: row.progress,
  left: row.leftOut,
  failure: row.failure,
})

async function byId(scope: FirmScope, id: string): Promise<IntakeDto> {
  const row = await scope.findOne(Intake, { id })
  if (!row) throw notFound('list')
  const person = await scope.findOne(Person, { id: row.personId })
  return dto(row, person?.name ?? '')
}

/** Lists looked through at once; one firm's never keep another's waiting. */
const looking = new FairGate({ atOnce: 2, waiting: 16, waitingEach: 4 })

/** Lists of sites, systems, fitted parts and readings: looked through, brought in whole, taken back. */
export const intakeRoutes = (deps: Deps) =>
  router()
    .openapi(routes.list, async (c) => {
      const { firmId } = c.get('who')
      const intakes = await deps.inFirm(firmId, async (scope) => {
        const names = new Map((await scope.find(Person)).map(({ id, name }) => [id, name]))
        return (await scope.find(Intake, {}, { at: 'DESC' })).map((row) => dto(row, names.get(row.personId) ?? ''))
      })
      return c.json({ intakes }, 200)
    })
    .openapi(routes.check, async (c) => {
      need(c.get('who'), 'edit-sites')
      const { text, columns, order } = c.req.valid('json')
      const { firmId } = c.get('who')
      const preview = await looking.run(firmId, () => deps.previewList(firmId, { text, columns, order }))
      return c.json(preview, 200)
    })
    .openapi(routes.add, async (c) => {
      const who = c.get('who')
      need(who, 'edit-sites')
      const { id, name, text, columns, order } = c.req.valid('json')
      // What is no list at all is refused before it is kept.
      readSheet(text)
      const intake = await deps.inFirm(who.firmId, async (scope) => {
        // Sent again after a lost answer: what it did stands, and nothing is done twice.
        const before = await scope.findOne(Intake, { id })
        if (before && before.source !== text) throw new ApiError('CONFLICT', say`Another list was imported under this id.`)
        const asked = { name, columns: columns.map((field) => field ?? ''), dateOrder: order, state: 'waiting' as const, failure: null }
        if (before?.state === 'stopped' || before?.state === 'failed') await scope.update(Intake, { id }, asked)
        else if (!before)
          await scope.insert(Intake, {
            ...asked,
            id,
            personId: who.personId,
            at: deps.now(),
            source: text,
            counts: NOTHING,
            undoneAt: null,
            kept: [],
            progress: 0,
            stopAsked: false,
            leftOut: 0,
          })
        return byId(scope, id)
      })
      if (!isUnderWay(intake)) return c.json(intake, 200)
      await deps.bringInSoon(who.firmId, id)
      return c.json(await deps.inFirm(who.firmId, (scope) => byId(scope, id)), 200)
    })
    .openapi(routes.one, async (c) => {
      const intake = await deps.inFirm(c.get('who').firmId, (scope) => byId(scope, c.req.valid('param').id))
      return c.json(intake, 200)
    })
    .openapi(routes.stop, async (c) => {
      const who = c.get('who')
      need(who, 'edit-sites')
      const { id } = c.req.valid('param')
      const intake = await deps.inFirm(who.firmId, async (scope) => {
        await byId(scope, id)
        await askToStop(scope, id)
        return byId(scope, id)
      })
      return c.json(intake, 200)
    })
    .openapi(routes.undo, async (c) => {
      const who = c.get('who')
      need(who, 'edit-sites')
      const { id } = c.req.valid('param')
      const now = deps.now()
      const intake = await deps.inFirm(who.firmId, async (scope) => {
        const row = await scope.findOne(Intake, { id })
        if (!row) throw notFound('list')
        if (row.state !== 'done') throw new ApiError('CONFLICT', say`This list is not in: there is nothing to take back.`)
        if (row.undoneAt === null) {
          const undoing = { intakeId: id, at: row.at, personId: who.personId, deviceId: who.sessionId, now, newId: deps.newId }
          const kept = await takeBack(scope, undoing)
          await scope.update(Intake, { id }, { undoneAt: now, kept })
        }
        return byId(scope, id)
      })
      await deps.refreshSoon(who.firmId)
      return c.json(intake, 200)
    })
