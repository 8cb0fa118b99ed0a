import { thingEdited } from '@evenround/contract/edits'
import type { SignInHints } from '@evenround/contract/firm'
import { MOST_LIST_BYTES } from '@evenround/contract/intake'
import { say } from '@evenround/core/words'
import { createMiddleware } from 'hono/factory'
import { secureHeaders } from 'hono/secure-headers'
import type { Registry } from 'prom-client'
import { apartRoutes } from './apart-routes'
import { signIn, signOut } from './auth/routes'
import { askPasskey, enterPasskey, enterSecond } from './auth/second'
import { signedIn } from './auth/session'
import { sameSecret } from './auth/token'
import { setUpByFile } from './features/begin/by-file'
import { beginRoutes } from './features/begin/routes'
import { setUp, setupState } from './features/begin/setup'
import { calcRoutes } from './features/calc/routes'
import { catalogueRoutes } from './features/catalogue/routes'
import { disinfectionRoutes } from './features/disinfection/routes'
import { exportRoutes } from './features/export/routes'
import { findRoutes } from './features/find/routes'
import { askLink, forgot, takeLink } from './features/firm/link-routes'
import { firmRoutes } from './features/firm/routes'
import { secondRoutes } from './features/firm/second-routes'
import { intakeRoutes } from './features/intake/routes'
import { photoRoutes } from './features/photo/routes'
import { feed, feedRoutes } from './features/round/feed'
import { roundRoutes } from './features/round/routes'
import { runRoutes } from './features/round/runs'
import { siteRoutes } from './features/site/routes'
import { ingest, telemetryRoutes } from './features/telemetry/routes'
import { timesRoutes } from './features/times/routes'
import { trainRoutes } from './features/train/routes'
import { travelRoutes } from './features/travel/routes'
import { vanRoutes } from './features/van/routes'
import { visitRoutes } from './features/visit/routes'
import { wearRoutes } from './features/wear/routes'
import { sentOnce } from './http/answers'
import { type AnswerApart, handOn } from './http/apart'
import { type Deps, type Env, router } from './http/env'
import { ApiError } from './http/errors'
import { answerFailure } from './http/failures'
import { loggedPath, noLargerThan, ownPagesOnly, plainJson, requestIdOf } from './http/front'
import { FairGate, inTurns } from './http/gate'
import { KeptAnswers } from './http/kept'
import { inAskedLanguage } from './http/language'
import type { LimitName } from './http/limits'
import type { LiveHub } from './http/live'
import { metrics } from './http/metrics'
import { asOftenAsMay } from './http/often'
import { withTheRight } from './http/rights'
import { pageRoutes } from './pages/routes'

const MOST_BODY_BYTES = 2 * 1024 * 1024
/** An e-mail and a password; the largest a passkey sends. */
const MOST_DOOR_BYTES = 32 * 1024
/** Batches of facts a process works on at the same time: what comes while the database is busy goes to it together. */
const FACTS_AT_ONCE = 32
const MOST_FACTS_WAITING = 512
/** Requests that threads of their own answer: at work at the same time, and waiting for their turn. */
const APART_AT_ONCE = 6
const MOST_APART_WAITING = 128
const DOOR = /^\/api\/(auth\/|setup$)/
const LISTS = /^\/api\/intakes(\/check)?$/

/** The routes the app's client is typed by; every one of them asks for a sign-in. */
export const apiRoutes = (deps: Deps) =>
  router()
    .route('/', firmRoutes(deps))
    .route('/', secondRoutes(deps))
    .route('/', beginRoutes(deps))
    .route('/', findRoutes(deps))
    .route('/', exportRoutes(deps))
    .route('/', siteRoutes(deps))
    .route('/', trainRoutes(deps))
    .route('/', intakeRoutes(deps))
    .route('/', visitRoutes(deps))
    .route('/', photoRoutes(deps))
    .route('/', pageRoutes(deps))
    .route('/', wearRoutes(deps))
    .route('/', disinfectionRoutes(deps))
    .route('/', telemetryRoutes(deps))
    .route('/', catalogueRoutes(deps))
    .route('/', roundRoutes(deps))
    .route('/', runRoutes(deps))
    .route('/', apartRoutes(deps))
    .route('/', feedRoutes(deps))
    .route('/', timesRoutes(deps))
    .route('/', travelRoutes(deps))
    .route('/', vanRoutes(deps))
    .route('/', calcRoutes(deps))

interface AppOptions {
  /** Whether the database answers. */
  ready: () => Promise<boolean>
  /** Shown on the sign-in page of a demo; empty elsewhere. */
  signInHints: SignInHints['people']
  /** What the start printed for whoever sets up the first firm; null where nothing is to be set up. */
  setupCode?: string | null
  /** What changes is streamed to whoever listens; left out where nobody does. */
  live?: LiveHub
  /** What is measured of the process itself, beside its answers. */
  registry?: Registry
  /** Whether people reach the server by TLS: then nothing of it goes without. */
  behindTls?: boolean
  /** What whoever reads the metrics has to show; without it nobody reads them. */
  metricsToken?: string | null
  /** When the last good backup of the server began, for the metrics. */
  lastBackup?: () => Promise<Date | null>
  /** Whether the process was told to end: it answers, and asks for nothing new. */
  draining?: () => boolean
  /** Memory for answers that can be given out again; without it each is worked out anew. */
  keepBytes?: number
  /** Answers what reads all of a firm or makes a whole plan, in threads of their own; without it this one does. */
  apart?: AnswerApart
}

const PUBLISHES = '/api/round/publications'
/** Acts on the plan in the making; looking at it and having it worked on change nothing. */
const MOVES_THE_ROUND = /^\/api\/round\/(moves|draft|fresh|marks|extras|publications|runs\/[^/]+\/take)/

/** Tells the firm's other devices of what was edited. Whoever plans beside sees every move; whoever drives, what was published. */
const tellOfEdits = (deps: Deps) =>
  createMiddleware<Env>(async (c, next) => {
    await next()
    const { method, path } = c.req
    if (method === 'GET' || !c.res.ok) return
    const { firmId } = c.get('who')
    if (MOVES_THE_ROUND.test(path)) await deps.tell(firmId, { what: 'round', published: path === PUBLISHES })
    const thing = thingEdited(method, path)
    if (thing !== null) await deps.tell(firmId, { what: 'edited', thing })
  })

/** The whole API. Static files are added by the process that serves them. */
export function createApp(deps: Deps, options: AppOptions) {
  const {
    ready,
    signInHints,
    setupCode = null,
    live,
    registry,
    behindTls = false,
    metricsToken = null,
    lastBackup,
    draining = () => false,
    keepBytes = 0,
    apart,
  } = options
  const door: Deps = { ...deps, inFirm: deps.inFirmAtDoor }
  const app = router()
  const counters = metrics(registry, lastBackup)
  app.use(inAskedLanguage)
  app.use(async (c, next) => {
    const requestId = requestIdOf(c.req.header('x-request-id'))
    c.set('requestId', requestId)
    c.header('x-request-id', requestId)
    const started = performance.now()
    await next()
    const ms = performance.now() - started
    counters.count(c.req.method, c.res.status, ms)
    if (c.req.path.startsWith('/api/'))
      deps.log('info', 'request', {
        requestId,
        method: c.req.method,
        path: loggedPath(c.req.path),
        status: c.res.status,
        ms: Math.round(ms),
      })
  })
  app.use(
    secureHeaders({
      contentSecurityPolicy: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        workerSrc: ["'self'", 'blob:'],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        fontSrc: ["'self'", 'data:'],
        connectSrc: ["'self'"],
        objectSrc: ["'none'"],
        frameAncestors: ["'none'"],
        baseUri: ["'self'"],
      },
      xFrameOptions: 'DENY',
      // On plain loopback there is no TLS to insist on.
      strictTransportSecurity: behindTls ? 'max-age=31536000; includeSubDomains' : false,
    }),
  )
  app.use('/api/*', ownPagesOnly(deps.publicUrl))
  // A whole firm is larger than any other request; who sends it has shown the code before a byte of it is read.
  app.post('/api/setup/file', async (c) => {
    await deps.limit('setup', deps.addressOf(c))
    return setUpByFile(c, door, setupCode)
  })
  const [usual, ofLists, atDoor] = [noLargerThan(MOST_BODY_BYTES), noLargerThan(MOST_LIST_BYTES), noLargerThan(MOST_DOOR_BYTES)]
  app.use('/api/*', (c, next) => (LISTS.test(c.req.path) ? ofLists : DOOR.test(c.req.path) ? atDoor : usual)(c, next))
  const byAddress = (name: LimitName) =>
    createMiddleware<Env>(async (c, next) => {
      await deps.limit(name, deps.addressOf(c))
      await next()
    })
  app.get('/api/health', async (c) => ((await ready()) ? c.json({ ok: true }) : c.json({ ok: false, database: 'away' }, 503)))
  app.get('/api/ready', async (c) => {
    if (draining()) return c.json({ ok: false, why: 'draining' }, 503)
    return (await ready()) ? c.json({ ok: true }) : c.json({ ok: false, why: 'database away' }, 503)
  })
  app.get('/api/sign-in-hints', async (c) =>
    c.json({ people: signInHints, setUp: (await setupState(door, setupCode)).open } satisfies SignInHints),
  )
  app.get('/api/metrics', async (c) => {
    if (metricsToken === null || !sameSecret(c.req.header('authorization') ?? '', `Bearer ${metricsToken}`))
      throw new ApiError('NOT_FOUND', say`There is no such route.`)
    return c.body(await counters.text(), 200, { 'content-type': counters.contentType })
  })
  app.post('/api/auth/sign-in', byAddress('sign-in'), (c) => signIn(c, door))
  app.post('/api/auth/second', byAddress('sign-in'), (c) => enterSecond(c, door))
  app.post('/api/auth/passkey/ask', byAddress('sign-in'), (c) => askPasskey(c, door))
  app.post('/api/auth/passkey', byAddress('sign-in'), (c) => enterPasskey(c, door))
  app.get('/api/setup', async (c) => c.json(await setupState(door, setupCode)))
  app.post('/api/setup', byAddress('setup'), (c) => setUp(c, door, setupCode))
  app.post('/api/auth/links/ask', byAddress('link'), (c) => askLink(c, door))
  app.post('/api/auth/links/use', byAddress('link'), (c) => takeLink(c, door))
  app.post('/api/auth/forgot', byAddress('link'), (c) => forgot(c, door))
  app.post('/api/telemetry', (c) => ingest(c, door))
  app.get('/api/feeds/:file', byAddress('feed'), (c) => feed(c, door))
  app.post('/api/auth/sign-out', (c) => signOut(c, deps))
  // Before what waits for an answer's end: this one has none.
  if (live) app.get('/api/live', signedIn(deps), (c) => live.stream(c))
  app.use('/api/*', signedIn(deps))
  app.use('/api/*', withTheRight)
  app.use('/api/*', asOftenAsMay(deps))
  // After everything that may refuse whoever asks: what is kept is given out to nobody who may not have it.
  app.use('/api/*', sentOnce(new KeptAnswers(deps.now, keepBytes)))
  app.post('/api/facts', inTurns(new FairGate({ atOnce: FACTS_AT_ONCE, waiting: MOST_FACTS_WAITING, againAfterS: 1 })))
  app.use('/api/*', plainJson)
  app.use('/api/*', tellOfEdits(deps))
  if (apart) {
    const gate = new FairGate({ atOnce: APART_AT_ONCE, waiting: MOST_APART_WAITING, againAfterS: 1 })
    const handing = handOn(apart, gate)
    for (const { method, path } of apartRoutes(deps).routes) app.on(method, path, handing)
  }
  app.doc31('/api/openapi.json', { openapi: '3.1.0', info: { title: 'Even Round', version: '1' } })
  app.route('/', apiRoutes(deps))
  app.all('/api/*', () => {
    throw new ApiError('NOT_FOUND', say`There is no such route.`)
  })
  app.onError(answerFailure(deps.log))
  return app
}
