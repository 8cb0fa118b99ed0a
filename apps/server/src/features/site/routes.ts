import { idSchema } from '@evenround/contract/common'
import { type SiteDto, siteEditSchema, siteNewSchema, siteSchema } from '@evenround/contract/site'
import { SITE_FIELDS } from '@evenround/core/firm'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { recordOf } from '../../db/columns'
import { Site } from '../../db/entities/master'
import { type Deps, need, router } from '../../http/env'
import { body, json, PROBLEMS } from '../../http/openapi'
import { editVersioned } from '../../http/versions'
import { addSystem } from '../train/store'
import { markSite } from '../wear/stale'

export const siteDto = (site: Site): SiteDto => ({ id: site.id, ...recordOf(SITE_FIELDS, site), version: site.version })

const routes = {
  add: createRoute({ method: 'post', path: '/api/sites', request: body(siteNewSchema), responses: { 200: json(siteSchema), ...PROBLEMS } }),
  edit: createRoute({
    method: 'put',
    path: '/api/sites/{id}',
    request: { params: z.object({ id: idSchema }), ...body(siteEditSchema) },
    responses: { 200: json(siteSchema), ...PROBLEMS },
  }),
}

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
