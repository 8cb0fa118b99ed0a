import type { ServerResponse } from 'node:http'
import type { serve } from '@hono/node-server'

const LOOK_MS = 20

/**
 * Stops listening and lets what is being answered be answered. A connection that is kept for the next question is ended as soon as
 * nothing is asked on it; after `graceMs` the others are too.
 */
export async function closeServer(server: ReturnType<typeof serve>, graceMs: number): Promise<void> {
  // What is still asked on an open connection is the last thing on it.
  server.prependListener('request', (_, response: ServerResponse) => response.setHeader('connection', 'close'))
  const looks = setInterval(() => 'closeIdleConnections' in server && server.closeIdleConnections(), LOOK_MS)
  const grace = setTimeout(() => 'closeAllConnections' in server && server.closeAllConnections(), graceMs)
  await new Promise<void>((resolve) => {
    server.close(() => resolve())
  })
  clearInterval(looks)
  clearTimeout(grace)
}
