import { workYear } from '@evenround/contract/year-work'
import { FAMILIES, familyTrain } from '@evenround/core/train'
import { hindsightOf, summarise } from '@evenround/core/wear'
import type { DataSource } from 'typeorm'
import { v7 as uuidv7 } from 'uuid'
import { createApp } from '../app'
import { createAuth } from '../auth/auth'
import planAtOnce from '../background/round-worker'
import { dataSource } from '../db/data-source'
import { Firm, Site, Stage, System, TrainVersion } from '../db/entities/master'
import { askFirmOf, authScope, deviceScope, feedScope, firmScopes } from '../db/scope'
import { sessionScope } from '../db/session-scope'
import { demoBeside } from '../demo/beside'
import { DEFAULT_UNITS } from '../demo/load'
import { DEFAULT_SCHOOLS, DEMO_PASSWORD } from '../demo/world'
import { calcByText } from '../features/calc/by-text'
import { makeFile } from '../features/export/make'
import { addPerson } from '../features/firm/people'
import { previewOf } from '../features/intake/preview'
import { workIntake } from '../features/intake/work'
import { workRun } from '../features/round/run'
import { outlinesRound } from '../features/travel/outlines'
import { refreshRoads } from '../features/travel/roads/refresh'
import { tableServer } from '../features/travel/roads/table-server'
import { refreshFirm } from '../features/wear/refresh'
import { firmFilesOf } from '../firm-file'
import type { Deps } from '../http/env'
import { badInput } from '../http/errors'
import { limitsOn } from '../http/limits'
import { tellOver } from '../http/live'
import { standInMailer } from '../mail/stand-in'
import { type TestDatabase, testDatabase } from './database'
import { PLAIN_SITE } from './plain-site'

export const PASSWORD = DEMO_PASSWORD

export interface Answer {
  status: number
  // biome-ignore lint/suspicious/noExplicitAny: tests look into answers of every route
  body: any
  text: string
  headers: Headers
}

/** The whole API in one process on a real database, with a clock that a test can move. */
export interface World {
  database: TestDatabase
  source: DataSource
  deps: Deps
  app: ReturnType<typeof createApp>
  /** The connections of whoever is not signed in. */
  doorSource: DataSource
  clock: { now: Date }
  /** How long a routing server is waited for: long, since a machine at work is slow; a test of a slow server takes less. */
  patience: { roadMs: number }
  signIn: (email: string, password?: string) => Promise<Person>
  close: () => Promise<void>
}

export interface Person {
  cookie: string
  ask: (method: string, path: string, input?: unknown) => Promise<Answer>
}

async function answerOf(response: Response): Promise<Answer> {
  const text = await response.text()
  let body: unknown = null
  try {
    body = JSON.parse(text)
  } catch {
    body = null
  }
  return { status: response.status, body, text, headers: response.headers }
}

export function asker(app: World['app'], cookie: string): Person['ask'] {
  return async (method, path, input) =>
    answerOf(
      await app.request(path, {
        method,
        headers: {
          cookie,
          'user-agent': 'Mozilla/5.0 (X11; Linux x86_64) Chrome/150',
          ...(input === undefined ? {} : { 'content-type': 'application/json' }),
        },
        ...(input === undefined ? {} : { body: typeof input === 'string' ? input : JSON.stringify(input) }),
      }),
    )
}

/** What the start of a test's server printed. */
export const SETUP_CODE = 'KELP-4TID-EWAY'
/** Where tests' routing servers answer. */
const ROAD_HOSTS = ['127.0.0.1']
/** What a reader of the metrics shows. */
export const METRICS_TOKEN = 'for tests, to read the metrics'

export const openWorld = async (kind: 'empty' | 'demo'): Promise<World> => openWorldOn(await testDatabase(kind))

/** The server on a database that is brought up to date already. */
export async function openWorldOn(database: TestDatabase): Promise<World> {
  const source = dataSource({ url: database.appUrl, poolSize: 4 })
  await source.initialize()
  const clock = { now: new Date() }
  const doorSource = dataSource({ url: database.appUrl, poolSize: 2 })
  await doorSource.initialize()
  const inAuthScope = authScope(doorSource)
  const auth = createAuth({
    inAuthScope,
    secret: 'for tests only, never outside of them',
    newId: uuidv7,
    secureCookies: false,
    publicUrl: null,
  })
  const calc: Deps['calc'] = async (name, text) => {
    const answer = calcByText(name, text)
    if (!answer.ok) throw badInput(answer.problems)
    return answer.text
  }
  const inFirm = firmScopes(source)
  const now = () => clock.now
  const patience = { roadMs: 30_000 }
  const firmFiles = firmFilesOf(source, now)
  // Work is done at once and in this thread: what a test asks for next is there.
  const refreshSoon = async (firmId: string): Promise<void> => {
    await refreshFirm({ inFirm, now, summarise: async (stages) => stages.map(summarise) }, firmId)
  }
  const deps: Deps = {
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
    limit: limitsOn(doorSource),
    addressOf: (c) => c.req.header('x-forwarded-for') ?? 'here',
    log: (level, event, more) => {
      if (level === 'error') process.stderr.write(`${event} ${JSON.stringify(more)}\n`)
    },
    demo: demoBeside(source, now, uuidv7),
    mailer: standInMailer(now),
    publicUrl: 'https://round.example',
    tell: tellOver(source, () => undefined),
    calc,
    workYear: async (ask) => workYear(ask, 0.2),
    inHindsight: async (ask) => hindsightOf(ask),
    outlines: async (places) => outlinesRound(places),
    refreshSoon,
    planSoon: async (firmId, runId) => {
      await workRun({ inFirm, now, plan: async (ask) => planAtOnce({ ...ask, seconds: 0.1 }) }, firmId, runId, () => true)
    },
    previewList: (firmId, ask) => inFirm(firmId, (scope) => previewOf(scope, ask, now())),
    bringInSoon: async (firmId, intakeId) => {
      if (await workIntake({ inFirm, now, newId: uuidv7 }, firmId, intakeId)) await refreshSoon(firmId)
    },
    makeFileSoon: (firmId, fileId) => makeFile({ inFirm, now, write: firmFiles.write }, firmId, fileId),
    bringFirmIn: firmFiles.bringIn,
    roadHosts: ROAD_HOSTS,
    roadsSoon: async (firmId) => {
      await refreshRoads(
        { inFirm, now, hosts: ROAD_HOSTS, serverAt: (at) => tableServer(at, { mostMs: patience.roadMs }) },
        firmId,
        () => true,
      )
    },
  }
  const app = createApp(deps, {
    ready: async () => true,
    signInHints: [],
    setupCode: SETUP_CODE,
    metricsToken: METRICS_TOKEN,
    // Every test of the server is a test of this as well: nothing that is given out again may differ from what is there.
    keepBytes: 8 * 1024 * 1024,
  })
  const signIn = async (email: string, password = PASSWORD): Promise<Person> => {
    const response = await app.request('/api/auth/sign-in', {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'user-agent': 'Mozilla/5.0 (Linux; Android 15) Chrome/150' },
      body: JSON.stringify({ email, password }),
    })
    if (response.status !== 200) throw new Error(`sign-in of ${email} answered ${response.status}: ${await response.text()}`)
    const cookie = response.headers
      .getSetCookie()
      .map((one) => one.split(';')[0])
      .join('; ')
    return { cookie, ask: asker(app, cookie) }
  }
  const close = async (): Promise<void> => {
    await source.destroy()
    await doorSource.destroy()
    await database.drop()
  }
  return { database, source, doorSource, deps, app, clock, patience, signIn, close }
}

/** A small firm of its own: an owner, a technician, one site with a two-stage set. */
export async function addFirm(world: World, name: string) {
  const firmId = uuidv7()
  const ids = {
    firmId,
    ownerId: uuidv7(),
    technicianId: uuidv7(),
    viewerId: uuidv7(),
    siteId: uuidv7(),
    systemId: uuidv7(),
    stageIds: [uuidv7(), uuidv7()] as [string, string],
  }
  const email = (who: string): string => `${who}@${name}.example`
  await world.deps.inFirm(firmId, async (scope) => {
    await scope.insert(Firm, {
      name,
      timeZone: 'Atlantic/Azores',
      currency: 'EUR',
      gallon: 'us',
      units: DEFAULT_UNITS,
      schools: DEFAULT_SCHOOLS,
      version: 1,
    })
    const people = [
      ['owner', ids.ownerId],
      ['technician', ids.technicianId],
      ['viewer', ids.viewerId],
    ] as const
    for (const [role, id] of people)
      await addPerson(
        scope,
        { id, name: `${role} of ${name}`, email: email(role), role, skills: [], van: null, password: PASSWORD },
        world.clock.now,
        uuidv7,
      )
    await scope.insert(Site, {
      id: ids.siteId,
      name: `Site of ${name}`,
      ...PLAIN_SITE,
      version: 1,
    })
    await scope.insert(System, { id: ids.systemId, siteId: ids.siteId, name: 'Kitchen', trainVersion: 1 })
    await scope.insert(TrainVersion, {
      systemId: ids.systemId,
      version: 1,
      train: familyTrain(FAMILIES['under-sink-2'], ids.stageIds) as never,
    })
    await scope.insert(
      Stage,
      ids.stageIds.map((id) => ({ id, systemId: ids.systemId, nextPartId: null })),
    )
  })
  return { ...ids, email }
}
