import { idSchema } from '@evenround/contract/common'
import { problemsOf } from '@evenround/contract/problems'
import { deviceAddedSchema, deviceNewSchema, deviceSchema, telemetrySchema } from '@evenround/contract/telemetry'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import type { Context } from 'hono'
import { z } from 'zod'
import { Firm, System } from '../../db/entities/master'
import { breach } from '../../db/errors'
import { type Deps, type Env, need, router } from '../../http/env'
import { ApiError, badInput, notFound } from '../../http/errors'
import { readJson } from '../../http/input'
import { body, json, PROBLEMS } from '../../http/openapi'
import { addDevice, devicesOf, endDevice, hashOfKey, newKey, storeReadings } from './store'

const one = { params: z.object({ id: idSchema }) }
const routes = {
  list: createRoute({
    method: 'get',
    path: '/api/devices',
    responses: { 200: json(z.object({ devices: z.array(deviceSchema) })), ...PROBLEMS },
  }),
  add: createRoute({
    method: 'post',
    path: '/api/devices',
    request: body(deviceNewSchema),
    responses: { 200: json(deviceAddedSchema), ...PROBLEMS },
  }),
  end: createRoute({
    method: 'delete',
    path: '/api/devices/{id}',
    request: one,
    responses: { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS },
  }),
}

/** Counters and controllers that report by themselves: added by who edits sites, each with a key of its own. */
export const telemetryRoutes = (deps: Deps) =>
  router()
    .openapi(routes.list, async (c) => c.json({ devices: await deps.inFirm(c.get('who').firmId, (scope) => devicesOf(scope, null)) }, 200))
    .openapi(routes.add, async (c) => {
      need(c.get('who'), 'edit-sites')
      const { id, systemId, name, kind } = c.req.valid('json')
      const key = newKey()
      try {
        const device = await deps.inFirm(c.get('who').firmId, async (scope) => {
          if (!(await scope.findOne(System, { id: systemId }))) throw notFound('system')
          await addDevice(scope, { id, systemId, name, kind }, key)
          return (await devicesOf(scope, id))[0]
        })
        if (!device) throw notFound('device')
        return c.json({ device, key }, 200)
      } catch (error) {
        if (breach(error) === 'unique') throw new ApiError('CONFLICT', say`A device of this id is there already.`)
        throw error
      }
    })
    .openapi(routes.end, async (c) => {
      need(c.get('who'), 'edit-sites')
      const ended = await deps.inFirm(c.get('who').firmId, (scope) => endDevice(scope, c.req.valid('param').id))
      if (!ended) throw notFound('device')
      return c.json({ ok: true } as const, 200)
    })

/** The one door of devices, before anybody is signed in: from a key to its device and firm. */
export async function ingest(c: Context<Env>, deps: Deps): Promise<Response> {
  const key = /^Device (\S{20,100})$/.exec(c.req.header('authorization') ?? '')?.[1]
  const device = key === undefined ? null : await deps.inDeviceScope(hashOfKey(key))
  if (!device) throw new ApiError('NOT_SIGNED_IN', say`No device has this key.`)
  const input = await readJson(c)
  if (input === null) throw badInput([{ path: '$', message: say`expected JSON` }])
  const parsed = telemetrySchema.safeParse(input)
  if (!parsed.success) throw badInput(problemsOf(parsed.error, input))
  const { readings } = parsed.data
  const { stored, newDay } = await deps.inFirm(device.firmId, async (scope) => {
    const firm = await scope.findOne(Firm, {})
    return storeReadings(scope, device, readings, firm?.timeZone ?? 'UTC', deps.now())
  })
  if (newDay) await deps.refreshSoon(device.firmId)
  return c.json({ stored, alreadyHad: readings.length - stored })
}
