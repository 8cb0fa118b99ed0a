// What one server process answers a second, page by page, with what each costs it of the processor, beside a bare route in the same run.
import { readFileSync } from 'node:fs'
import { Agent, request } from 'node:http'
import { signIn, withDemo } from './bench-server.mjs'

const SECONDS = Number(process.env.BENCH_SECONDS ?? 10)
const AT_ONCE = Number(process.env.BENCH_AT_ONCE ?? 64)
const FACTS_A_BATCH = 10
/** Of the kernel's clock ticks, which all of Debian's kernels count in hundredths of a second. */
const TICK_MS = 10

const cpuMs = (pid) => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(fields[11]) + Number(fields[12])) * TICK_MS
}

/** One request on a connection that stays open; how long it took and what it was answered. */
function ask(agent, port, cookie, { method = 'GET', path, body }) {
  const from = performance.now()
  const text = body === undefined ? undefined : JSON.stringify(body())
  return new Promise((resolve, reject) => {
    const one = request(
      {
        agent,
        port,
        host: '127.0.0.1',
        method,
        path,
        headers: {
          cookie,
          'accept-encoding': 'gzip',
          ...(text === undefined ? {} : { 'content-type': 'application/json', 'content-length': Buffer.byteLength(text) }),
        },
      },
      (answer) => {
        let bytes = 0
        answer.on('data', (chunk) => {
          bytes += chunk.length
        })
        answer.on('end', () => resolve({ ms: performance.now() - from, status: answer.statusCode, bytes }))
      },
    )
    one.on('error', reject)
    one.end(text)
  })
}

async function measure(server, cookie, page) {
  const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE })
  const times = []
  const statuses = new Map()
  let bytes = 0
  const until = performance.now() + SECONDS * 1000
  const before = cpuMs(server.pid)
  const began = performance.now()
  const worker = async () => {
    while (performance.now() < until) {
      const answer = await ask(agent, server.port, cookie, page)
      times.push(answer.ms)
      bytes += answer.bytes
      statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1)
    }
  }
  await Promise.all(Array.from({ length: AT_ONCE }, worker))
  const seconds = (performance.now() - began) / 1000
  const cpu = cpuMs(server.pid) - before
  agent.destroy()
  times.sort((a, b) => a - b)
  const each = page.each ?? 1
  return {
    name: page.name,
    perSecond: (times.length * each) / seconds,
    cpuMs: cpu / (times.length * each),
    p50: times[Math.floor(times.length / 2)],
    p99: times[Math.floor(times.length * 0.99)],
    kB: bytes / times.length / 1024,
    statuses: [...statuses].map(([status, count]) => `${status} × ${count}`).join(', '),
  }
}

/** A visit's beginning and ticks of it, ten in one batch. */
function factsOf(place) {
  let seq = 0
  return () => {
    const visitId = crypto.randomUUID()
    const at = new Date().toISOString()
    const base = () => ({ id: crypto.randomUUID(), at, seq: seq++, siteId: place.site, visitId, supersedes: null, voided: false })
    const begun = {
      ...base(),
      kind: 'visit-begun',
      stopId: null,
      systemId: place.system,
      trainVersion: place.version,
      engineVersion: 1,
      tasks: [],
      place: null,
    }
    const ticks = Array.from({ length: FACTS_A_BATCH - 1 }, (_, index) => ({
      ...base(),
      kind: 'step-done',
      stepKey: `before/measure-${index}`,
      verb: 'measure',
      stageId: null,
      outcome: 'done',
      choice: null,
      note: null,
    }))
    return { protocol: place.protocol, deviceId: '01a210be-51fe-72a1-83c2-5e99bc301c4f', sentAt: at, facts: [begun, ...ticks] }
  }
}

export const run = () =>
  withDemo(async ({ client, start }) => {
    const server = await start()
    const cookie = await signIn(server)
    const { rows } = await client.query(
      "select y.site_id as site, y.id as system, y.train_version as version from system y join site s on s.id = y.site_id where s.name = 'Boatyard wash-down' limit 1",
    )
    const protocol = Number(
      /PROTOCOL_VERSION = (\d+)/.exec(readFileSync(new URL('../../packages/contract/src/protocol.ts', import.meta.url), 'utf8'))?.[1],
    )
    const pages = [
      { name: 'bare route, one query', path: '/api/health' },
      { name: 'me', path: '/api/me' },
      { name: 'today', path: '/api/today' },
      { name: 'sites', path: '/api/sites' },
      { name: 'fifty due', path: '/api/due?limit=50' },
      { name: 'the round', path: '/api/round' },
      { name: 'a fact, in tens', method: 'POST', path: '/api/facts', body: factsOf({ ...rows[0], protocol }), each: FACTS_A_BATCH },
    ].filter(({ name }) => (process.env.BENCH_PAGES ? name.includes(process.env.BENCH_PAGES) : true))
    const lines = []
    for (const page of pages) {
      await measure(server, cookie, { ...page }).then((line) => lines.push(line))
      const { name, perSecond, cpuMs: cpu, p50, p99, kB, statuses } = lines.at(-1)
      const bare = lines[0].perSecond
      process.stdout.write(
        `${name.padEnd(24)} ${perSecond.toFixed(0).padStart(6)} a second, ${(perSecond / bare).toFixed(2)} of the bare route, ${cpu.toFixed(2)} ms CPU each, half in ${p50.toFixed(0)} ms, 99 % in ${p99.toFixed(0)} ms, ${kB.toFixed(1)} kB; ${statuses}\n`,
      )
    }
    return lines.every(({ statuses }) => !/5\d\d ×/.test(statuses))
  })
