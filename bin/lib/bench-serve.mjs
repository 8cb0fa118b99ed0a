// What one server process answers a second, page by page, with what each costs it of the processor, beside a bare route in the same run.
import { readFileSync } from 'node:fs'
import { Agent } from 'node:http'
import { setTimeout as sleep } from 'node:timers/promises'
import { ask, FACTS_A_BATCH, factsOf, placeOfFacts } from './bench-ask.mjs'
import { moreSignIns, signIn, withDemo } from './bench-server.mjs'

const SECONDS = Number(process.env.BENCH_SECONDS ?? 10)
const WARM_SECONDS = Number(process.env.BENCH_WARM_SECONDS ?? 4)
const AT_ONCE = Number(process.env.BENCH_AT_ONCE ?? 64)
/** Of the kernel's clock ticks, which all of Debian's kernels count in hundredths of a second. */
const TICK_MS = 10

const cpuMs = (pid) => {
  const fields = readFileSync(`/proc/${pid}/stat`, 'utf8').split(') ')[1].split(' ')
  return (Number(fields[11]) + Number(fields[12])) * TICK_MS
}

/** `cookies`: the sign-ins that ask at once, each of them one request after the other. */
async function measure(server, cookies, page, length) {
  const agent = new Agent({ keepAlive: true, maxSockets: AT_ONCE })
  const times = []
  const statuses = new Map()
  let bytes = 0
  const until = performance.now() + length * 1000
  const before = cpuMs(server.pid)
  const began = performance.now()
  let next = began
  const worker = async (cookie) => {
    while (performance.now() < until) {
      if (page.pace !== undefined) {
        const wait = next - performance.now()
        next += 1000 / page.pace
        if (wait > 0) await sleep(wait)
      }
      const answer = await ask(agent, server.port, cookie, page.next?.() ?? page)
      times.push(answer.ms)
      bytes += answer.bytes
      statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1)
    }
  }
  await Promise.all(cookies.map(worker))
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

/** The person who asks gets somebody's day of six stops, or as near to it as there is, today. */
async function giveSomeStops(client) {
  const { rows } = await client.query(`
    with person as (select firm_id, id from person where email = 'isla@fennick.example'),
      day as (select technician_id, day from stop where firm_id = (select firm_id from person) group by 1, 2 order by abs(count(*) - 6), 2 limit 1),
      firm_day as (select to_char(now() at time zone time_zone, 'YYYY-MM-DD') as today from firm where firm_id = (select firm_id from person))
    update stop s set technician_id = (select id from person), day = (select today from firm_day)
      from day where s.firm_id = (select firm_id from person) and s.technician_id = day.technician_id and s.day = day.day returning s.id`)
  process.stdout.write(`\nToday has ${rows.length} stops.\n`)
}

const STATED = [
  ['/api/today', 30],
  ['/api/me', 15],
  ['/api/sites', 10],
  ['/api/due?limit=50', 10],
  ['/api/round', 10],
]
const BATCHES_A_VISIT = 5
/** A stated mix of one firm: three quarters pages, a quarter facts in tens, of which one batch in five begins a visit. */
function mix(place) {
  const facts = factsOf(place, BATCHES_A_VISIT)
  const lot = STATED.flatMap(([path, share]) => Array(share).fill({ path }))
  const all = [...lot, ...Array(25).fill({ method: 'POST', path: '/api/facts', body: facts })]
  let turn = 0
  // Seven has no factor in common with a hundred: the kinds come mixed.
  return () => all[(turn++ * 7) % all.length]
}

const said = ({ name, perSecond, cpuMs: cpu, p50, p99, kB, statuses }, bare) =>
  `${name.padEnd(26)} ${perSecond.toFixed(0).padStart(6)} a second, ${(perSecond / bare).toFixed(2)} of the bare route, ${cpu.toFixed(2)} ms CPU each, half in ${p50.toFixed(0)} ms, 99 % in ${p99.toFixed(0)} ms, ${kB.toFixed(1)} kB; ${statuses}\n`

export const run = () =>
  withDemo(async ({ client, start }) => {
    await giveSomeStops(client)
    await client.query('vacuum analyze')
    const place = await placeOfFacts(client)
    const facts = factsOf(place)
    const pages = [
      { name: 'bare route, one query', path: '/api/health' },
      { name: 'me', path: '/api/me' },
      { name: 'today', path: '/api/today' },
      { name: 'sites', path: '/api/sites' },
      { name: 'fifty due', path: '/api/due?limit=50' },
      { name: 'the round', path: '/api/round' },
      { name: 'a mix with facts', next: mix(place) },
      { name: 'a fact, in tens', method: 'POST', path: '/api/facts', body: facts, each: FACTS_A_BATCH },
      // As they come and not as fast as they are taken.
      {
        name: 'facts, at 2,000 a second',
        method: 'POST',
        path: '/api/facts',
        body: facts,
        each: FACTS_A_BATCH,
        pace: 2000 / FACTS_A_BATCH,
      },
      { name: 'the mix, at 100 a second', next: mix(place), pace: 100 },
    ].filter(({ name }) => (process.env.BENCH_PAGES ? name.match(process.env.BENCH_PAGES) : true))
    const bad = []
    for (const [title, keep] of [
      ['Nothing of the firm changes meanwhile:', '32'],
      ['Every answer worked out anew (KEEP_ANSWERS_MB=0):', '0'],
    ]) {
      process.stdout.write(`\n${title}\n`)
      process.env.KEEP_ANSWERS_MB = keep
      const server = await start()
      const cookies = await moreSignIns(client, await signIn(server), AT_ONCE)
      let bare = null
      for (const page of pages) {
        // A process that has been up for a while: what is compiled and what is kept is there.
        await measure(server, cookies, page, WARM_SECONDS)
        const line = await measure(server, cookies, page, SECONDS)
        bare ??= line.perSecond
        process.stdout.write(said(line, bare))
        if (/5\d\d ×/.test(line.statuses)) bad.push(line.name)
      }
      await server.stop()
    }
    return bad.length === 0
  })
