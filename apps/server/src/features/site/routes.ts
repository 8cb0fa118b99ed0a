import { idSchema } from '@evenround/contract/common'
import {
  eraseSchema,
  leftSiteSchema,
  mergeSchema,
  moveSystemSchema,
  type SiteDto,
  siteChangesSchema,
  siteEditSchema,
  siteNewSchema,
  siteSchema,
} from '@evenround/contract/site'
import { SITE_FIELDS } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { recordOf } from '../../db/columns'
import { Firm, Site } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { customerFile } from '../../firm-file/customer'
import { type Deps, need, router } from '../../http/env'
import { notFound } from '../../http/errors'
import { body, json, PROBLEMS } from '../../http/openapi'
import { editVersioned } from '../../http/versions'
import { dayIn } from '../../time/zone'
import { noteDeed } from '../records/audit'
import { addSystem } from '../train/store'
import { markSite } from '../wear/stale'
import { comeBack, erase, leave, leftSites } from './leaving'
import { mergeEdit } from './merged-edit'
import { merge, moveSystem } from './moving'

export const siteDto = (site: Site): SiteDto => ({ id: site.id, ...recordOf(SITE_FIELDS, site), version: site.version })

const one = z.object({ id: idSchema })
const done = { 200: json(z.object({ ok: z.literal(true) })), ...PROBLEMS }
const zip = z.any().openapi({ type: 'string', format: 'binary' })

const routes = {
  add: createRoute({ method: 'post', path: '/api/sites', request: body(siteNewSchema), responses: { 200: json(siteSchema), ...PROBLEMS } }),
  edit: createRoute({
    method: 'put',
    path: '/api/sites/{id}',
    request: { params: one, ...body(siteEditSchema) },
    responses: { 200: json(siteSchema), ...PROBLEMS },
  }),
  left: createRoute({
    method: 'get',
    path: '/api/sites-left',
    responses: { 200: json(z.object({ sites: z.array(leftSiteSchema) })), ...PROBLEMS },
  }),
  leave: createRoute({ method: 'post', path: '/api/sites/{id}/leave', request: { params: one }, responses: done }),
  comeBack: createRoute({ method: 'post', path: '/api/sites/{id}/come-back', request: { params: one }, responses: done }),
  customer: createRoute({
    method: 'get',
    path: '/api/sites/{id}/customer',
    request: { params: one },
    responses: {
      200: { description: 'All that is kept about the customer', content: { 'application/zip': { schema: zip } } },
      ...PROBLEMS,
    },
  }),
  changes: createRoute({
    method: 'post',
    path: '/api/sites/{id}/changes',
    request: { params: one, ...body(siteChangesSchema) },
    responses: { 200: json(z.object({ theirs: z.array(z.string()) })), ...PROBLEMS },
  }),
  merge: createRoute({ method: 'post', path: '/api/sites/{id}/merge', request: { params: one, ...body(mergeSchema) }, responses: done }),
  takeSystem: createRoute({
    method: 'post',
    path: '/api/sites/{id}/systems',
    request: { params: one, ...body(moveSystemSchema) },
    responses: done,
  }),
  erase: createRoute({ method: 'post', path: '/api/sites/{id}/erase', request: { params: one, ...body(eraseSchema) }, responses: done }),
}

const todayOf = async (scope: FirmScope, now: Date): Promise<string> => dayIn((await scope.findOne(Firm, {}))?.timeZone ?? 'UTC', now)

/** Sites as master data: added with an id made by the device, edited with a version. */
export const siteRoutes = (deps: Deps) =>
  router()
    .openapi(routes.add, async (c) => {
      const { firmId } = c.get('who')
      need(c.get('who'), 'add-sites')
      const { systems = [], ...input } = c.req.valid('json')
      const site = await deps.inFirm(firmId, async (scope) => {
        // A device sends what it does not know to have arrived: the second time it is the same site.
        const there = await scope.findOne(Site, { id: input.id })
        if (there) return siteDto(there)
        await scope.insert(Site, { ...input, version: 1 })
        for (const system of systems) await addSystem(scope, { ...system, siteId: input.id }, deps.now())
        return { ...input, version: 1 }
      })
      if (systems.length > 0) await deps.refreshSoon(firmId)
      return c.json(site, 200)
    })
    .openapi(routes.edit, async (c) => {
      need(c.get('who'), 'edit-sites')
      const { id } = c.req.valid('param')
      const { version, ...patch } = c.req.valid('json')
      const { firmId } = c.get('who')
      const site = await deps.inFirm(firmId, async (scope) => {
        const edited = await editVersioned(scope, Site, { id, version, patch, what: 'site' }, siteDto)
        await markSite(scope, deps.now(), id)
        return edited
      })
      await deps.refreshSoon(firmId)
      return c.json(site, 200)
    })
    .openapi(routes.left, async (c) => c.json({ sites: await deps.inFirm(c.get('who').firmId, leftSites) }, 200))
    .openapi(routes.leave, async (c) => {
      const { firmId } = c.get('who')
      need(c.get('who'), 'edit-sites')
      await deps.inFirm(firmId, async (scope) => {
        await leave(scope, c.req.valid('param').id, deps.now(), await todayOf(scope, deps.now()))
        await markSite(scope, deps.now(), c.req.valid('param').id)
      })
      await deps.refreshSoon(firmId)
      return c.json({ ok: true } as const, 200)
    })
    .openapi(routes.comeBack, async (c) => {
      const { firmId } = c.get('who')
      need(c.get('who'), 'edit-sites')
      const { id } = c.req.valid('param')
      await deps.inFirm(firmId, async (scope) => {
        await comeBack(scope, id)
        await markSite(scope, deps.now(), id)
      })
      await deps.refreshSoon(firmId)
      return c.json({ ok: true } as const, 200)
    })
    .openapi(routes.customer, async (c) => {
      const who = c.get('who')
      need(who, 'export')
      const { id } = c.req.valid('param')
      const file = await deps.inFirm(who.firmId, async (scope) => {
        const made = await customerFile(scope.manager, id, deps.now())
        if (made === null) throw notFound('site')
        await noteDeed(scope, deps, who, 'customer-exported', say`All that is kept about one customer.`, id)
        return made
      })
      return c.body(new Uint8Array(file), 200, {
        'content-type': 'application/zip',
        'content-disposition': 'attachment; filename="customer.zip"',
        'cache-control': 'no-store',
      })
    })
    .openapi(routes.changes, async (c) => {
      const { firmId } = c.get('who')
      need(c.get('who'), 'edit-sites')
      const theirs = await deps.inFirm(firmId, async (scope) => {
        const done = await mergeEdit(scope, c.req.valid('param').id, c.req.valid('json'))
        await markSite(scope, deps.now(), done.id)
        return done.theirs
      })
      await deps.refreshSoon(firmId)
      return c.json({ theirs }, 200)
    })
    .openapi(routes.merge, async (c) => {
      const { firmId, personId } = c.get('who')
      need(c.get('who'), 'edit-sites')
      const deed = { id: deps.newId(), at: deps.now(), personId }
      await deps.inFirm(firmId, (scope) => merge(scope, c.req.valid('param').id, c.req.valid('json').from, deed))
      await deps.refreshSoon(firmId)
      return c.json({ ok: true } as const, 200)
    })
    .openapi(routes.takeSystem, async (c) => {
      const { firmId, personId } = c.get('who')
      need(c.get('who'), 'edit-sites')
      const { systemId, wholePast } = c.req.valid('json')
      const deed = { id: deps.newId(), at: deps.now(), personId }
      await deps.inFirm(firmId, (scope) => moveSystem(scope, systemId, c.req.valid('param').id, wholePast, deed))
      await deps.refreshSoon(firmId)
      return c.json({ ok: true } as const, 200)
    })
    .openapi(routes.erase, async (c) => {
      const who = c.get('who')
      need(who, 'erase')
      const { id } = c.req.valid('param')
      await deps.inFirm(who.firmId, async (scope) => {
        await erase(scope, id, c.req.valid('json').name, deps.now(), await todayOf(scope, deps.now()))
        await markSite(scope, deps.now(), id)
        await noteDeed(
          scope,
          deps,
          who,
          'customer-erased',
          say`Erased customer ${id.slice(-6).toUpperCase()}: name, contact, address, position, notes and photos are gone, the work stays.`,
          id,
        )
      })
      await deps.refreshSoon(who.firmId)
      return c.json({ ok: true } as const, 200)
    })
