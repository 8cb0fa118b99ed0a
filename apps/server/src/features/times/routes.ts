import { baseNewSchema } from '@evenround/contract/begin'
import { idSchema } from '@evenround/contract/common'
import {
  dayOffNewSchema,
  dayOffSchema,
  holidaysSchema,
  placeSchema,
  roundTermsSchema,
  siteHoursEditSchema,
  siteHoursSchema,
  workTimeEditSchema,
  workTimeSchema,
} from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { Firm, Person } from '../../db/entities/master'
import { DayOffRow, Place } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { type Deps, need, router } from '../../http/env'
import { badInput, notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { dayIn } from '../../time/zone'
import { holidaysOf } from './holidays'
import { daysOff, dropDayOff, editSiteHours, editWorkTime, siteHours, workTimes } from './store'

const one = { params: z.object({ id: idSchema }) }
const timesSchema = z.object({
  people: z.array(workTimeSchema),
  daysOff: z.array(dayOffSchema),
  places: z.array(placeSchema),
  terms: roundTermsSchema,
})
const times = { 200: json(timesSchema), ...PROBLEMS }
const hours = { 200: json(siteHoursSchema), ...PROBLEMS }

const routes = {
  times: createRoute({ method: 'get', path: '/api/times', responses: times }),
  edit: createRoute({
    method: 'put',
    path: '/api/times/people/{id}',
    request: { ...one, ...body(workTimeEditSchema) },
    responses: { 200: json(workTimeSchema), ...PROBLEMS },
  }),
  off: createRoute({ method: 'post', path: '/api/times/days-off', request: body(dayOffNewSchema), responses: times }),
  on: createRoute({ method: 'delete', path: '/api/times/days-off/{id}', request: one, responses: times }),
  holidays: createRoute({
    method: 'post',
    path: '/api/times/holidays',
    request: body(holidaysSchema),
    responses: { 200: json(z.object({ added: z.int(), known: z.int() })), ...PROBLEMS },
  }),
  base: createRoute({
    method: 'put',
    path: '/api/times/places/{id}',
    request: { ...one, ...body(baseNewSchema) },
    responses: times,
  }),
  hours: createRoute({ method: 'get', path: '/api/sites/{id}/hours', request: one, responses: hours }),
  editHours: createRoute({
    method: 'put',
    path: '/api/sites/{id}/hours',
    request: { ...one, ...body(siteHoursEditSchema) },
    responses: hours,
  }),
}

/** Who works when, when sites may be worked at, and the days nobody does. */
export const timesRoutes = (deps: Deps) => {
  const today = async (scope: FirmScope): Promise<string> => {
    const firm = await scope.findOne(Firm, {})
    return dayIn(firm?.timeZone ?? 'UTC', deps.now())
  }
  const page = async (scope: FirmScope) => {
    const firm = await scope.findOne(Firm, {})
    if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
    return {
      people: await workTimes(scope),
      daysOff: (await daysOff(scope, await today(scope))).map(({ id, personId, fromDay, toDay, why, source }) => ({
        id,
        personId,
        fromDay,
        toDay,
        why,
        source,
      })),
      places: (await scope.find(Place, {}, { island: 'ASC', name: 'ASC' })).map(({ id, name, island, lon, lat }) => ({
        id,
        name,
        island,
        lon,
        lat,
      })),
      terms: firm.roundTerms,
    }
  }
  return router()
    .openapi(routes.times, async (c) => c.json(await deps.inFirm(c.get('who').firmId, page), 200))
    .openapi(routes.edit, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      return c.json(await deps.inFirm(who.firmId, (scope) => editWorkTime(scope, c.req.valid('param').id, c.req.valid('json'))), 200)
    })
    .openapi(routes.base, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const { id } = c.req.valid('param')
      const base = c.req.valid('json')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const [other] = await scope.find(Place, { name: base.name, island: '' })
          if (other && other.id !== id) throw badInput([{ path: 'name', message: say`There is a base of this name` }])
          if ((await scope.update(Place, { id }, base)) === 0) await scope.insert(Place, { ...base, id, island: '' })
          return page(scope)
        }),
        200,
      )
    })
    .openapi(routes.off, async (c) => {
      const who = c.get('who')
      const day = c.req.valid('json')
      // Whoever is ill says so themselves.
      if (day.personId !== who.personId) need(who, 'plan-rounds')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          if (day.personId !== null && !(await scope.findOne(Person, { id: day.personId })))
            throw badInput([{ path: 'personId', message: say`expected a person of this firm` }])
          if (!(await scope.findOne(DayOffRow, { id: day.id }))) await scope.insert(DayOffRow, day)
          return page(scope)
        }),
        200,
      )
    })
    .openapi(routes.on, async (c) => {
      const who = c.get('who')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          const row = await scope.findOne(DayOffRow, { id: c.req.valid('param').id })
          if (!row) throw notFound('day off')
          if (row.personId !== who.personId) need(who, 'plan-rounds')
          await dropDayOff(scope, row.id)
          return page(scope)
        }),
        200,
      )
    })
    .openapi(routes.holidays, async (c) => {
      const who = c.get('who')
      need(who, 'plan-rounds')
      const { text, personId } = c.req.valid('json')
      return c.json(
        await deps.inFirm(who.firmId, async (scope) => {
          if (personId !== null && !(await scope.findOne(Person, { id: personId })))
            throw badInput([{ path: 'personId', message: say`expected a person of this firm` }])
          const found = holidaysOf(text, await today(scope))
          const known = (await scope.find(DayOffRow)).filter((row) => row.personId === personId)
          const fresh = found.filter(({ fromDay, toDay }) => known.every((row) => row.fromDay !== fromDay || row.toDay !== toDay))
          await scope.insert(
            DayOffRow,
            fresh.map((one) => ({ ...one, id: deps.newId(), personId, source: 'calendar' as const })),
          )
          return { added: fresh.length, known: found.length - fresh.length }
        }),
        200,
      )
    })
    .openapi(routes.hours, async (c) =>
      c.json(await deps.inFirm(c.get('who').firmId, async (scope) => siteHours(scope, c.req.valid('param').id, await today(scope))), 200),
    )
    .openapi(routes.editHours, async (c) => {
      const who = c.get('who')
      need(who, 'edit-sites')
      const edited = await deps.inFirm(who.firmId, async (scope) =>
        editSiteHours(scope, c.req.valid('param').id, c.req.valid('json'), await today(scope), deps.now()),
      )
      await deps.refreshSoon(who.firmId)
      return c.json(edited, 200)
    })
}
