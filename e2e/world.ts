import { randomBytes } from 'node:crypto'
import { type Browser, type BrowserContextOptions, test as base, type Page } from '@playwright/test'
import { type RunningServer, serve } from '../bin/lib/server.mjs'
import { CLOCK_OF_PAGES, clockOfRun } from './clock'
import { named, query, urls } from './databases'
import { Technician } from './driver/technician'

const SIZES = { phone: { width: 390, height: 844 }, desk: { width: 1280, height: 800 } } as const

/** A server of this test file's own, on a copy of the demo. */
export interface World {
  url: string
  /** Stops the server; the database stays. */
  stopServer: () => Promise<void>
  startServer: () => Promise<void>
  /** Lets some hours go by on the server; what its clock says then. */
  goAhead: (hours: number) => Promise<Date>
  /** Sets its clock back to that of the run, on which the world goes on for other tests. */
  comeBack: () => Promise<void>
  /** Reads past every lock what really stands in the tables. */
  query: <R extends object>(sql: string, params?: unknown[]) => Promise<R[]>
}

interface Fixtures {
  world: World
  phone: Technician
  desk: Technician
}

/** What the start of a server without a firm printed. */
export const SETUP_CODE = 'KELP-4TID-EWAY'
/** A world of a name like this begins with nobody in it. */
const isEmpty = (name: string): boolean => name.startsWith('empty')

async function openWorld(empty: boolean): Promise<{ world: World; close: () => Promise<void> }> {
  const { adminUrl, appUrl } = urls()
  const name = `e_${randomBytes(6).toString('hex')}`
  await query(adminUrl, `create database ${name} owner evenround_owner template ${empty ? 'er_empty' : 'er_demo'} strategy file_copy`)
  const secret = randomBytes(32).toString('hex')
  let aheadMs = 0
  const start = async (port: number): Promise<RunningServer> => {
    const begins = empty ? { showDemo: false, setupCode: SETUP_CODE } : { showDemo: true }
    const started = await serve({
      appUrl: named(appUrl, name),
      port,
      secret,
      ...begins,
      clockMoves: true,
      more: { ROUTING_SERVERS: '127.0.0.1' },
    })
    if (aheadMs !== 0) await started.moveClock(aheadMs)
    return started
  }
  let server = await start(0)
  const { port } = server
  const world: World = {
    url: `http://127.0.0.1:${port}`,
    stopServer: () => server.stop(),
    startServer: async () => {
      server = await start(port)
    },
    goAhead: async (hours) => {
      aheadMs += hours * 3_600_000
      await server.moveClock(aheadMs)
      return new Date(clockOfRun() + aheadMs)
    },
    comeBack: async () => {
      if (aheadMs === 0) return
      aheadMs = 0
      await server.moveClock(0)
    },
    query: (sql, params) => query(named(adminUrl, name), sql, params),
  }
  const close = async (): Promise<void> => {
    await server.stop()
    await query(adminUrl, `drop database ${name} with (force)`)
  }
  return { world, close }
}

/** Somebody with a phone in the hand or at a desk. */
export const opened = async (page: Page, world: World, size: keyof typeof SIZES): Promise<Technician> => {
  // What the program threw is said beside the test it was thrown in.
  page.on('pageerror', (error) => process.stderr.write(`thrown in the page: ${error.stack ?? error.message}\n`))
  await page.setViewportSize(SIZES[size])
  return new Technician(page, world.url)
}

/** Hours go by on the server and for this person alike, once all that was done before has been sent. */
export async function hoursLater(world: World, person: Technician, hours: number): Promise<void> {
  await person.allSent()
  await person.page.clock.setSystemTime(await world.goAhead(hours))
}

/** Pages live on the clock of the run, like the server they speak with. */
function onTheClock(browser: Browser): Browser {
  const open = browser.newContext.bind(browser)
  browser.newContext = async (options?: BrowserContextOptions) => {
    const context = await open(options)
    await context.addInitScript(CLOCK_OF_PAGES)
    return context
  }
  return browser
}

/** The worlds of one worker: everybody's, and the one of the file that asked for its own last. */
class Worlds {
  private readonly open = new Map<string, Awaited<ReturnType<typeof openWorld>>>()

  async of(name: string): Promise<World> {
    const known = this.open.get(name)
    if (known) return known.world
    for (const other of [...this.open.keys()].filter((key) => key !== '')) await this.close(other)
    const opened = await openWorld(isEmpty(name))
    this.open.set(name, opened)
    return opened.world
  }

  async closeAll(): Promise<void> {
    for (const name of [...this.open.keys()]) await this.close(name)
  }

  private async close(name: string): Promise<void> {
    await this.open.get(name)?.close()
    this.open.delete(name)
  }
}

export const test = base.extend<Fixtures & { keepsProgram: boolean; ownWorld: string }, { worlds: Worlds }>({
  browser: [async ({ browser }, use) => use(onTheClock(browser)), { scope: 'worker' }],
  /** Whether the device keeps the program, as it does where the network may go away; to bring all of it there takes a second of a test. */
  keepsProgram: [false, { option: true }],
  context: async ({ context, keepsProgram }, use) => {
    if (!keepsProgram) await context.addInitScript(() => Reflect.deleteProperty(Navigator.prototype, 'serviceWorker'))
    await use(context)
  },
  /** A name of its own gives a file a world of its own: its stops stand on nobody else's day. A world costs two seconds: its tests go to one worker. */
  ownWorld: ['', { option: true }],
  worlds: [
    // biome-ignore lint/correctness/noEmptyPattern: the runner reads the names of fixtures out of this pattern
    async ({}, use) => {
      const worlds = new Worlds()
      await use(worlds)
      await worlds.closeAll()
    },
    { scope: 'worker' },
  ],
  world: async ({ worlds, ownWorld }, use) => use(await worlds.of(ownWorld)),
  phone: async ({ page, world }, use) => use(await opened(page, world, 'phone')),
  desk: async ({ page, world }, use) => use(await opened(page, world, 'desk')),
})
export { expect, type Page } from '@playwright/test'
