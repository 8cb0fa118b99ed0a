// Requests that nobody means, to a running server: how many, what they were answered, the slowest, and the memory before and after.
import { memoryOf, signIn, withDemo } from './bench-server.mjs'
import { bundled } from './bundle.mjs'

const REQUESTS = Number(process.env.BENCH_REQUESTS ?? 20_000)
const AT_ONCE = 16
const SEED = Number(process.env.EVEN_ROUND_SEED ?? 1)
/** Looking back and writing a firm's whole file take seconds each; a plan takes as long as it is given. */
const SELDOM = ['GET /api/due-rules/hindsight', 'POST /api/firm-file', 'POST /api/round/runs']

export const run = () =>
  withDemo(async ({ client, start }) => {
    const { DOORS, drawer } = await bundled('bench-fuzz')
    const causes = []
    const server = await start((line) => {
      if (line.includes('"event":"failed"')) causes.push(JSON.parse(line).cause)
    })
    const url = `http://127.0.0.1:${server.port}`
    let cookie = await signIn(server)
    const description = await (await fetch(`${url}/api/openapi.json`, { headers: { cookie } })).json()
    const { rows } = await client.query(
      '(select id from site limit 40) union all (select id from system limit 40) union all (select id from stage limit 40) union all (select id from stop limit 40)',
    )
    // Whoever signs out is out: the others' turns would all be refused.
    const doors = DOORS.filter(({ path }) => path !== '/api/auth/sign-out')
    const known = rows.map(({ id }) => id)
    const { next } = drawer({ description, doors, known, seldom: SELDOM, seed: SEED })
    const statuses = new Map()
    const bad = []
    const times = []
    const before = memoryOf(server.pid)
    const began = performance.now()
    let left = REQUESTS
    const worker = async () => {
      while (left-- > 0) {
        const { route, method, path, headers, body } = next()
        const from = performance.now()
        const answer = await fetch(`${url}${path}`, {
          method,
          headers: { cookie, ...headers },
          ...(method === 'GET' || body === undefined ? {} : { body }),
        })
        await answer.arrayBuffer()
        times.push([performance.now() - from, route])
        statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1)
        // 503 says that there is too much at once, and when to come again.
        if (answer.status >= 500 && !(answer.status === 503 && answer.headers.get('retry-after')))
          bad.push(`${answer.status} ${route} ${body}`)
        if (answer.status === 401) cookie = (await signIn(server).catch(() => '')) || cookie
      }
    }
    await Promise.all(Array.from({ length: AT_ONCE }, worker))
    const seconds = (performance.now() - began) / 1000
    times.sort(([a], [b]) => b - a)
    const at = (share) => times[Math.floor(times.length * (1 - share))]?.[0].toFixed(0)
    process.stdout.write(
      `\n${times.length} requests nobody means in ${seconds.toFixed(0)} s, ${AT_ONCE} at once: ${[...statuses]
        .sort(([a], [b]) => a - b)
        .map(([status, count]) => `${status} × ${count}`)
        .join(', ')}\n`,
    )
    process.stdout.write(
      `half within ${at(0.5)} ms, 99 % within ${at(0.99)} ms; the slowest: ${times
        .slice(0, 5)
        .map(([ms, route]) => `${route} ${ms.toFixed(0)} ms`)
        .join(', ')}\n`,
    )
    process.stdout.write(`memory of the server: ${before} MB before, ${memoryOf(server.pid)} MB after\n`)
    for (const one of bad.slice(0, 10)) process.stdout.write(`wrong: ${one.slice(0, 300)}\n`)
    for (const cause of new Set(causes)) process.stdout.write(`cause: ${cause.slice(0, 1000)}\n`)
    return bad.length === 0
  })
