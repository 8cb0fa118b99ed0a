import { bookFilterSchema } from '@evenround/contract/book'
import { siteRowSchema } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { createRoute } from '@hono/zod-openapi'
import { z } from 'zod'
import { noteDeed } from '../features/records/audit'
import { type ApartDeps, need, router } from '../http/env'
import { json, PROBLEMS } from '../http/openapi'
import { bookCsv } from './book'
import { sitesPage } from './site'

const routes = {
  sites: createRoute({
    method: 'get',
    path: '/api/sites',
    responses: { 200: json(z.object({ sites: z.array(siteRowSchema) })), ...PROBLEMS },
  }),
  bookCsv: createRoute({
    method: 'get',
    path: '/api/book.csv',
    request: { query: bookFilterSchema },
    responses: { 200: { description: 'the book as CSV', content: { 'text/csv': { schema: z.string() } } }, ...PROBLEMS },
  }),
}

/** Screens and files that list all of a firm. */
export const listRoutes = (deps: ApartDeps) =>
  router()
    .openapi(routes.sites, async (c) =>
      c.json({ sites: await deps.inFirm(c.get('who').firmId, (scope) => sitesPage(scope, deps.now())) }, 200),
    )
    .openapi(routes.bookCsv, async (c) => {
      need(c.get('who'), 'export')
      const text = await deps.inFirm(c.get('who').firmId, async (scope) => {
        await noteDeed(scope, deps, c.get('who'), 'list-exported', say`The book, as CSV`)
        return bookCsv(scope, c.req.valid('query'))
      })
      return c.text(text, 200, { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="book.csv"' })
    })
