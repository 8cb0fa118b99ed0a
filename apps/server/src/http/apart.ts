import type { OpenAPIHono } from '@hono/zod-openapi'
import { createMiddleware } from 'hono/factory'
import type { ContentfulStatusCode } from 'hono/utils/http-status'
import type { Log } from '../log'
import { type Env, router, type Who } from './env'
import { answerFailure } from './failures'
import type { FairGate } from './gate'

/** A request that another thread answers: who asks was looked up, may ask it, and has waited for their turn. */
export interface ApartAsk {
  method: string
  /** With its query. */
  path: string
  body: string | null
  who: Who
  requestId: string
}
export interface ApartAnswer {
  status: number
  headers: [string, string][]
  body: Uint8Array<ArrayBuffer>
}
export type AnswerApart = (ask: ApartAsk) => Promise<ApartAnswer>

/** Where the paths of requests are read from; no address of anything. */
const NOWHERE = 'http://thread'

/** Hands requests on to another thread, in turns between firms: what one firm's plans take, the others do not wait for. */
export const handOn = (answer: AnswerApart, gate: FairGate) =>
  createMiddleware<Env>(async (c) => {
    const who = c.get('who')
    const { pathname, search } = new URL(c.req.url)
    const { method } = c.req
    const body = method === 'GET' ? null : await c.req.text()
    const answered = await gate.run(who.firmId, () =>
      answer({ method, path: pathname + search, body: body === '' ? null : body, who, requestId: c.get('requestId') }),
    )
    return c.body(answered.body, answered.status as ContentfulStatusCode, Object.fromEntries(answered.headers))
  })

/** The other thread's side: routes that answer what is handed on. */
export function answerApart(routes: OpenAPIHono<Env>, log: Log): AnswerApart {
  const asking = new WeakMap<Request, ApartAsk>()
  const app = router()
  app.use(async (c, next) => {
    const ask = asking.get(c.req.raw)
    if (!ask) throw new Error('a request that nobody handed on')
    c.set('who', ask.who)
    c.set('requestId', ask.requestId)
    await next()
  })
  app.route('/', routes)
  app.onError(answerFailure(log))
  return async (ask) => {
    const { method, path, body } = ask
    const request = new Request(
      NOWHERE + path,
      body === null ? { method } : { method, body, headers: { 'content-type': 'application/json' } },
    )
    asking.set(request, ask)
    const answer = await app.fetch(request)
    return { status: answer.status, headers: [...answer.headers], body: new Uint8Array(await answer.arrayBuffer()) }
  }
}
