// A firm of twenty thousand systems at work for a while: pages and facts at a steady pace, lists looked through and whole files in between. Whether the server grows or slows, and how long the thread that answers everybody is kept from it.
import { Agent } from 'node:http'
import { setTimeout as sleep } from 'node:timers/promises'
import { ask, factsOf, placeOfFacts } from './bench-ask.mjs'
import { eventLoopOf, memoryOf, metricsOf, signIn, TOKEN, withDemo, writeLargeFirm } from './bench-server.mjs'

const MINUTES = Number(process.env.BENCH_MINUTES ?? 10)
/** Requests a second, and how many of them bring facts. */
const PACE = Number(process.env.BENCH_PACE ?? 10)
const SHARE_OF_FACTS = 0.25
const QUARTERS = 4
const GROWTH_MOST = 1.15
const SLOWER_MOST = 1.5
const DELAY_MOST_MS = 50
const QUIET_MS = 20_000

const at = (values, share) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))] ?? 0

/** What the server's objects that have lived for a while take, MB: least right after a collection, and then it is what stays. */
const oldMb = async (port) => (await metricsOf(port, 'nodejs_heap_space_size_used_bytes\\{space="old"\\}'))[0] / 2 ** 20

/** Waits until no whole file is being made and the collector has had its turn: what is left then is what stays. */
async function settled(port, cookie) {
  for (;;) {
    const state = await (await fetch(`http://127.0.0.1:${port}/api/firm-file`, { headers: { cookie } })).text()
    if (!/"state":"asked"/.test(state)) break
    await sleep(1000)
  }
  await sleep(QUIET_MS)
}

const LIST_LINES = 2000
const list = () => `Site;People\n${Array.from({ length: LIST_LINES }, (_, index) => `Listed ${index};3`).join('\n')}\n`

export const run = () =>
  withDemo(async ({ client, start }) => {
    await writeLargeFirm(client)
    process.env.METRICS_TOKEN = TOKEN
    const server = await start()
    const cookie = await signIn(server)
    const agent = new Agent({ keepAlive: true, maxSockets: 64 })
    const { rows: sites } = await client.query('select id from site order by random() limit 500')
    const facts = factsOf(await placeOfFacts(client))
    const pages = [
      () => ({ path: '/api/me' }),
      () => ({ path: '/api/today' }),
      () => ({ path: `/api/sites/${sites[Math.floor(Math.random() * sites.length)].id}` }),
      () => ({ path: '/api/due?limit=50' }),
    ]
    const heavy = [
      ['a list looked through', () => ({ method: 'POST', path: '/api/intakes/check', body: () => ({ name: 'A list', text: list() }) })],
      ['the whole firm’s file', () => ({ method: 'POST', path: '/api/firm-file', body: () => ({}) })],
    ]
    const quarters = Array.from({ length: QUARTERS }, () => ({
      ms: [],
      byPath: new Map(),
      bad: 0,
      memory: 0,
      stays: Number.POSITIVE_INFINITY,
      delay: 0,
      heavy: [],
    }))
    const length = (MINUTES * 60_000) / QUARTERS
    await eventLoopOf(server.port)
    let asked = 0
    let now = 0
    const looking = setInterval(
      () => void oldMb(server.port).then((mb) => Object.assign(quarters[now], { stays: Math.min(quarters[now].stays, mb) })),
      1000,
    )
    const running = new Set()
    for (const [index, quarter] of quarters.entries()) {
      now = index
      const began = performance.now()
      const before = asked
      let nextHeavy = began
      let turn = 0
      while (performance.now() < began + length) {
        const wait = began + ((asked - before) * 1000) / PACE - performance.now()
        if (wait > 0) await new Promise((resolve) => setTimeout(resolve, wait))
        asked += 1
        const request = Math.random() < SHARE_OF_FACTS ? { method: 'POST', path: '/api/facts', body: facts } : pages[asked % pages.length]()
        const one = ask(agent, server.port, cookie, request).then(
          ({ ms, status }) => {
            quarter.ms.push(ms)
            const kind = request.path.replace(/[0-9a-f-]{36}/, '{id}')
            quarter.byPath.set(kind, [...(quarter.byPath.get(kind) ?? []), ms])
            if (status !== 200) quarter.bad += 1
          },
          () => {
            quarter.bad += 1
          },
        )
        running.add(one)
        void one.finally(() => running.delete(one))
        if (performance.now() >= nextHeavy) {
          const [name, make] = heavy[turn++ % heavy.length]
          nextHeavy = performance.now() + length / heavy.length
          void ask(agent, server.port, cookie, make()).then(({ status }) => quarter.heavy.push(`${name} ${status}`))
        }
      }
      await Promise.all(running)
      quarter.delay = (await eventLoopOf(server.port)).p99
      quarter.busiest = memoryOf(server.pid)
      await settled(server.port, cookie)
      quarter.memory = memoryOf(server.pid)
      process.stdout.write(
        `quarter ${index + 1}: ${quarter.ms.length} answers, ${quarter.bad} bad, median ${at(quarter.ms, 0.5).toFixed(0)} ms, 99 % ${at(quarter.ms, 0.99).toFixed(0)} ms, memory ${quarter.busiest} MB at work and ${quarter.memory} MB settled, of it ${quarter.stays.toFixed(0)} MB of lasting objects at the least, thread kept ${quarter.delay.toFixed(0)} ms at 99 %; ${quarter.heavy.join(', ')}\n${[...quarter.byPath].map(([path, ms]) => `  ${path}: median ${at(ms, 0.5).toFixed(0)} ms, 99 % ${at(ms, 0.99).toFixed(0)} ms\n`).join('')}`,
      )
    }
    clearInterval(looking)
    agent.destroy()
    // The first quarter warms up: what it loads stays.
    const [, second] = quarters
    const last = quarters.at(-1)
    // What a process holds swings with when its collector runs: what grows is what a collection leaves.
    const grown = last.stays / second.stays
    const slower = at(last.ms, 0.5) / at(second.ms, 0.5)
    const delay = Math.max(...quarters.slice(1).map((one) => one.delay))
    const bad = quarters.reduce((sum, one) => sum + one.bad, 0)
    const good = grown <= GROWTH_MOST && slower <= SLOWER_MOST && delay <= DELAY_MOST_MS && bad === 0
    process.stdout.write(
      `\n${asked} requests in ${MINUTES} minutes at ${PACE} a second: lasting objects × ${grown.toFixed(2)} (most ${GROWTH_MOST}), median × ${slower.toFixed(2)} (most ${SLOWER_MOST}), the answering thread kept at most ${delay.toFixed(0)} ms at 99 % (most ${DELAY_MOST_MS}), ${bad} bad.\n\nTarget ${good ? 'met' : 'NOT met'}.\n`,
    )
    return good
  })
