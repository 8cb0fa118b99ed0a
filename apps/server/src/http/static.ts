import { serveStatic } from '@hono/node-server/serve-static'
import type { OpenAPIHono } from '@hono/zod-openapi'
import type { Env } from './env'

const HASHED = /[.-][0-9a-f]{32}\./
const YEAR_S = 31_536_000

/** The built app: hashed files for a year, everything else asked for again; unknown paths are the app's own routes. */
export function serveApp(app: OpenAPIHono<Env>, root: string): void {
  const files = serveStatic<Env>({
    root,
    precompressed: true,
    onFound: (path, c) => c.header('cache-control', HASHED.test(path) ? `public, max-age=${YEAR_S}, immutable` : 'no-cache'),
  })
  const entry = serveStatic<Env>({
    root,
    path: 'index.html',
    precompressed: true,
    onFound: (_, c) => c.header('cache-control', 'no-cache'),
  })
  app.get('*', files)
  app.get('*', entry)
}
