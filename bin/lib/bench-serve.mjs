// What one server process answers a second, page by page, with what each costs it of the processor, beside a bare route in the same run.
import { readFileSync } from 'node:fs'
import { Agent } from 'node:http'
import { ask, FACTS_A_BATCH, factsOf, placeOfFacts } from './bench-ask.mjs'
import { signIn, withDemo } from './bench-server.mjs'

const SECONDS = Number(process.env.BENCH_SECONDS ?? 10)
const AT_ONCE = Number(process.env.BENCH_AT_ONCE ?? 64)
/** Of the kernel's clock ticks, which all of Debian's kernels count in hundredths of a second. */
const TICK_MS = 10

const cpuMs = (pid) => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(fields[11]) + Number(fields[12])) * TICK_MS
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

export const run = () =>
  withDemo(async ({ client, start }) => {
    const server = await start()
    const cookie = await signIn(server)
    const facts = factsOf(await placeOfFacts(client))
    const pages = [
      { name: 'bare route, one query', path: '/api/health' },
      { name: 'me', path: '/api/me' },
      { name: 'today', path: '/api/today' },
      { name: 'sites', path: '/api/sites' },
      { name: 'fifty due', path: '/api/due?limit=50' },
      { name: 'the round', path: '/api/round' },
      { name: 'a fact, in tens', method: 'POST', path: '/api/facts', body: facts, each: FACTS_A_BATCH },
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
