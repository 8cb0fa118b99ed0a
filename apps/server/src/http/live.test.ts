import { Agent, request } from 'node:http'
import { serve } from '@hono/node-server'
import { v7 as uuidv7 } from 'uuid'
import { createApp } from '../app'
import { peek } from '../testing/database'
import { batch, begun, ticked } from '../testing/facts'
import { addFirm, openWorld, type World } from '../testing/world'
import { closeServer } from './close'
import { liveHub } from './live'

let world: World
beforeAll(async () => {
  world = await openWorld('empty')
})
afterAll(() => world.close())

/** A server process of its own on the world's database, and a device that listens to it. */
async function open() {
  const live = liveHub({ url: world.database.appUrl, log: () => undefined })
  const app = createApp(world.deps, { ready: async () => true, signInHints: [], live })
  const server = await new Promise<ReturnType<typeof serve>>((resolve) => {
    const started = serve({ fetch: app.fetch, hostname: '127.0.0.1', port: 0 }, () => resolve(started))
  })
  await live.listening()
  const address = server.address()
  const url = typeof address === 'object' && address ? `http://127.0.0.1:${address.port}` : ''
  const close = (graceMs = 0) => Promise.all([closeServer(server, graceMs), live.close()])
  return { url, live, close }
}

async function listener(url: string, cookie: string) {
  const stop = new AbortController()
  const response = await fetch(`${url}/api/live`, { headers: { cookie }, signal: stop.signal })
  const heard: { what: string; visitIds?: string[] }[] = []
  const reader = (async () => {
    let rest = ''
    const decoder = new TextDecoder()
    for await (const chunk of response.body ?? []) {
      rest += decoder.decode(chunk, { stream: true })
      const lines = rest.split('\n')
      rest = lines.pop() ?? ''
      for (const line of lines) if (line.startsWith('data: ')) heard.push(JSON.parse(line.slice(6)))
    }
  })().catch(() => undefined)
  const until = async (there: () => boolean): Promise<void> => {
    for (let tries = 0; !there(); tries++) {
      if (tries > 600) throw new Error(`it was never heard; heard ${JSON.stringify(heard)}`)
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
  }
  return {
    status: response.status,
    type: response.headers.get('content-type'),
    heard,
    until,
    stop: async () => {
      stop.abort()
      await reader
    },
  }
}

test('a tick on one server process is heard at once through another, by its own firm only', async () => {
  const [mill, press] = [await addFirm(world, 'mill'), await addFirm(world, 'press')]
  const technician = await world.signIn(mill.email('technician'))
  const [one, two] = [await open(), await open()]
  const ours = await listener(two.url, (await world.signIn(mill.email('owner'))).cookie)
  const theirs = await listener(two.url, (await world.signIn(press.email('owner'))).cookie)
  try {
    expect([ours.status, ours.type]).toEqual([200, 'text/event-stream'])
    const at = { siteId: mill.siteId, systemId: mill.systemId, visitId: uuidv7() }
    await technician.ask('POST', '/api/facts', batch(begun(at), ticked(at, 'a')))
    await ours.until(() => ours.heard.length > 0)
    expect(ours.heard).toEqual([
      { what: 'facts', deviceId: expect.any(String), kinds: ['visit-begun', 'step-done'], visitIds: [at.visitId], siteIds: [at.siteId] },
    ])
    expect(theirs.heard).toEqual([])
  } finally {
    await ours.stop()
    await theirs.stop()
    await one.close()
    await two.close()
  }
})

test('after the database was away everybody is told to look again, and hears what follows', async () => {
  const firm = await addFirm(world, 'weir')
  const { cookie } = await world.signIn(firm.email('owner'))
  const technician = await world.signIn(firm.email('technician'))
  const process = await open()
  const device = await listener(process.url, cookie)
  try {
    await peek(
      world.database,
      `select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen %' and datname = current_database()`,
    )
    await device.until(() => device.heard.some(({ what }) => what === 'again'))
    const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
    await technician.ask('POST', '/api/facts', batch(begun(at)))
    await device.until(() => device.heard.some(({ what }) => what === 'facts'))
  } finally {
    await device.stop()
    await process.close()
  }
})

test('nobody listens without a sign-in', async () => {
  const process = await open()
  try {
    const response = await fetch(`${process.url}/api/live`)
    expect(response.status).toBe(401)
  } finally {
    await process.close()
  }
})

test('a device that listens, and asks again as soon as it hears nothing more, keeps no server from closing', async () => {
  const firm = await addFirm(world, 'quay')
  const { cookie } = await world.signIn(firm.email('owner'))
  const process = await open()
  const { port } = new URL(process.url)
  // One connection, kept for the next question, as a browser keeps it.
  const agent = new Agent({ keepAlive: true, maxSockets: 1 })
  let streams = 0
  let refused: () => void = () => undefined
  const gone = new Promise<void>((resolve) => {
    refused = resolve
  })
  const listen = (): void => {
    request({ port, host: '127.0.0.1', path: '/api/live', headers: { cookie }, agent }, (response) => {
      streams += 1
      response.resume().on('end', listen).on('error', refused)
    })
      .on('error', refused)
      .end()
  }
  listen()
  while (streams === 0) await new Promise((resolve) => setTimeout(resolve, 10))
  // Nobody has an hour: it closes because nobody holds it open.
  await process.close(3_600_000)
  await gone
  expect(streams).toBeLessThan(4)
  agent.destroy()
})
