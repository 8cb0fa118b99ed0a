import { findSchema, foundSchema } from '@evenround/contract/find'
import { createRoute } from '@hono/zod-openapi'
import type { Deps } from '../../http/env'
import { router } from '../../http/env'
import { json, PROBLEMS } from '../../http/openapi'

const MOST = 40

const routes = {
  find: createRoute({
    method: 'get',
    path: '/api/search',
    request: { query: findSchema },
    responses: { 200: json(foundSchema), ...PROBLEMS },
  }),
}

interface FoundRow {
  kind: 'site' | 'system' | 'part' | 'visit' | 'fault'
  ref: string
  site_id: string
  site_name: string
  title: string
  at: Date | null
}

/** Anything of the firm by part of a word and with slips. The function asks the session for its firm: none is handed to it. */
export const findRoutes = (deps: Deps) =>
  router().openapi(routes.find, async (c) => {
    const { q } = c.req.valid('query')
    const rows = await deps.inFirm(c.get('who').firmId, ({ manager }) =>
      manager.query<FoundRow[]>('select * from search_firm($1, $2)', [q, MOST]),
    )
    const found = rows.map(({ kind, ref, site_id, site_name, title, at }) => ({
      kind,
      id: ref,
      siteId: site_id,
      siteName: site_name,
      title,
      at: at?.toISOString() ?? null,
    }))
    return c.json({ found }, 200)
  })
