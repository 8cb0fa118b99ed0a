import { setTimeout as sleep } from 'node:timers/promises'
import { serve } from '@hono/node-server'
import { collectDefaultMetrics, Registry } from 'prom-client'
import { v7 as uuidv7 } from 'uuid'
import { createApp } from './app'
import { createAuth } from './auth/auth'
import { purgeTries } from './auth/failures'
import { Aside } from './background/aside'
import { mapPool, wearPool } from './background/pool'
import { LAST_GOOD } from './backup/note'
import { behindTls, readConfig } from './config'
import { dataSource } from './db/data-source'
import { refusePowerfulRole } from './db/guard'
import { askFirmOf, authScope, deviceScope, feedScope, firmScopes } from './db/scope'
import { sessionScope } from './db/session-scope'
import { demoBeside } from './demo/beside'
import { DEMO_FIRM_ID } from './demo/load'
import { DEMO_PASSWORD, DEMO_PEOPLE } from './demo/world'
import { calcPool } from './features/calc/pool'
import { firmFilesOf } from './firm-file'
import { addressOf, networksOf } from './http/address'
import { closeServer } from './http/close'
import { limitsOn } from './http/limits'
import { liveHub, tellOver } from './http/live'
import { serveApp } from './http/static'
import { watchOver } from './lifetime'
import { jsonLog } from './log'
import { smtpMailer } from './mail/smtp'
import { standInMailer } from './mail/stand-in'

const config = readConfig(process.env)
const tls = behindTls(config)
const trustedProxies = networksOf(config.TRUSTED_PROXIES)
const now = () => new Date()
const log = jsonLog(process.stdout, now)
const registry = new Registry()
collectDefaultMetrics({ register: registry })

const database = { url: config.DATABASE_URL, asAppRole: config.DATABASE_AS_APP_ROLE === '1' }
const connectionsOf = (poolSize: number) =>
  dataSource({
    ...database,
    poolSize,
    onPoolError: (error) => log('warn', 'database-connection-lost', { cause: String(error) }),
  })
const source = connectionsOf(config.DATABASE_POOL)
await source.initialize()
await refusePowerfulRole(source)
// Whoever is not signed in has connections of their own: however many strangers ask, people keep theirs.
const doorSource = connectionsOf(config.DATABASE_DOOR_POOL)
await doorSource.initialize()

const tell = tellOver(source, log)
const inAuthScope = authScope(doorSource)
const inFirm = firmScopes(source)
const firmFiles = firmFilesOf(source, now)
const pool = calcPool()
const wear = wearPool()
const maps = mapPool()
const PREVIEW_MOST_MS = 60_000
const APART_THREADS = 2
/** A year of twenty thousand systems is read, planned for at most 90 s and laid out within this; what takes longer is not coming back. */
const APART_MOST_MS = 240_000
const aside = { ...database, planSeconds: config.PLAN_SECONDS ?? null, roadHosts: config.ROUTING_SERVERS, log }
const queue = new Aside({ ...aside, what: 'queue', always: true })
const lists = new Aside({ ...aside, what: 'lists', always: false, mostMs: PREVIEW_MOST_MS })
/** A firm is always answered by the same thread, which keeps the last of its plans. */
const apart = Array.from({ length: APART_THREADS }, () => new Aside({ ...aside, what: 'apart', always: false, mostMs: APART_MOST_MS }))
const threadOf = (firmId: string) => apart[Number.parseInt(firmId.slice(-4), 16) % APART_THREADS] as Aside
const auth = createAuth({
  inAuthScope,
  secret: config.AUTH_SECRET,
  newId: uuidv7,
  secureCookies: tls,
  publicUrl: config.PUBLIC_URL ?? null,
})
const ready = async (): Promise<boolean> => {
  try {
    await source.query('select 1')
    return true
  } catch {
    return false
  }
}
/** When the last good backup began; its table is no firm's. */
const lastBackup = async (): Promise<Date | null> => {
  const [row] = await doorSource.query<{ at: Date | null }[]>(LAST_GOOD)
  return row?.at ?? null
}
const live = liveHub({ url: config.DATABASE_URL, log })
const signInHints =
  config.SHOW_DEMO === '1' ? DEMO_PEOPLE.map(({ name, email, role }) => ({ name, email, role, password: DEMO_PASSWORD })) : []
const mailer = config.SMTP_URL
  ? smtpMailer({ url: config.SMTP_URL, from: config.MAIL_FROM ?? 'Even Round <even-round@localhost>' })
  : config.SHOW_DEMO === '1'
    ? standInMailer(now)
    : null
let closing = false
const app = createApp(
  {
    inFirm,
    askFirm: askFirmOf(source),
    inFirmAtDoor: firmScopes(doorSource),
    inAuthScope,
    inSessionScope: sessionScope(source),
    inDeviceScope: deviceScope(doorSource),
    inFeedScope: feedScope(doorSource),
    auth,
    now,
    newId: uuidv7,
    log,
    limit: limitsOn(doorSource),
    addressOf: addressOf(trustedProxies),
    tell,
    // Two years of a firm are made: not where everybody is answered.
    demo: { ...demoBeside(source, now, uuidv7), load: () => threadOf(DEMO_FIRM_ID).ask('loadDemo') },
    mailer,
    publicUrl: config.PUBLIC_URL ?? null,
    calc: pool.run,
    workYear: pool.year,
    inHindsight: wear.inHindsight,
    outlines: maps.outlines,
    // The marks stand in the firm's own tables: where this asking is lost, the next one finds them.
    refreshSoon: (firmId) =>
      queue.ask<void>('refreshSoon', firmId).catch((error: unknown) => log('warn', 'queue-away', { cause: String(error) })),
    planSoon: (firmId, runId) => queue.ask('planSoon', firmId, runId),
    makeFileSoon: (firmId, fileId) => queue.ask('makeFileSoon', firmId, fileId),
    previewList: (firmId, ask) => lists.ask('preview', firmId, ask),
    bringInSoon: (firmId, intakeId) => queue.ask('bringInSoon', firmId, intakeId),
    bringFirmIn: firmFiles.bringIn,
    roadHosts: config.ROUTING_SERVERS,
    roadsSoon: (firmId) =>
      queue.ask<void>('roadsSoon', firmId).catch((error: unknown) => log('warn', 'queue-away', { cause: String(error) })),
  },
  {
    ready,
    signInHints,
    setupCode: config.SETUP_CODE ?? null,
    live,
    registry,
    behindTls: tls,
    metricsToken: config.METRICS_TOKEN ?? null,
    lastBackup,
    draining: () => closing,
    keepBytes: config.KEEP_ANSWERS_MB * 1024 * 1024,
    apart: (ask) => threadOf(ask.who.firmId).ask('answer', ask),
  },
)
if (config.APP_DIR) serveApp(app, config.APP_DIR)

/** Longer than the minute for which what stands in between (a proxy, a phone's own pool) takes an idle connection for good. */
const IDLE_CONNECTION_MS = 75_000
const listenAt = { hostname: config.HOST, port: config.PORT, serverOptions: { keepAliveTimeout: IDLE_CONNECTION_MS } }
const server = serve({ fetch: app.fetch, ...listenAt }, ({ port }) => {
  log('info', 'listening', { host: config.HOST, port })
})

const CLOSING_GRACE_MS = 5000
/** What does not end by itself is ended: a process that hangs half closed answers nobody. */
const CLOSING_MOST_MS = 20_000
async function close(why: string, code: number): Promise<void> {
  if (closing) return
  closing = true
  log('info', 'closing', { why })
  const drainMs = code === 0 ? config.DRAIN_SECONDS * 1000 : 0
  setTimeout(() => process.exit(code || 1), drainMs + CLOSING_MOST_MS).unref()
  await sleep(drainMs)
  await Promise.all([closeServer(server, CLOSING_GRACE_MS), live.close()])
  await Promise.all([queue, lists, ...apart].map((one) => one.close()))
  await pool.close()
  await wear.close()
  await maps.close()
  await source.destroy()
  await doorSource.destroy()
  process.exit(code)
}
watchOver({ events: process, log, close })

/** Tries that nobody waits for any more are thrown away. */
const PURGE_MS = 3_600_000
setInterval(() => {
  purgeTries(inAuthScope, now()).catch((error: unknown) => log('warn', 'purge-failed', { cause: String(error) }))
}, PURGE_MS).unref()
