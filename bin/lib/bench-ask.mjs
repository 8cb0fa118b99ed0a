// Requests that benches ask a server with.
import { readFileSync } from 'node:fs'
import { request } from 'node:http'

export const FACTS_A_BATCH = 10

/** One request on a connection that stays open; how long it took and what it was answered. */
export function ask(agent, port, cookie, { method = 'GET', path, body }) {
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

/** A visit's beginning and ticks of it, ten in one batch; with `batches` more than one, so many of ticks for each beginning. */
export function factsOf(place, batches = 1) {
  let seq = 0
  let sent = 0
  let visitId = ''
  return () => {
    const begins = sent++ % batches === 0
    if (begins) visitId = crypto.randomUUID()
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
    const ticks = Array.from({ length: begins ? FACTS_A_BATCH - 1 : FACTS_A_BATCH }, (_, index) => ({
      ...base(),
      kind: 'step-done',
      stepKey: `before/measure-${index}`,
      verb: 'measure',
      stageId: null,
      outcome: 'done',
      choice: null,
      note: null,
    }))
    return {
      protocol: place.protocol,
      deviceId: '01a210be-51fe-72a1-83c2-5e99bc301c4f',
      sentAt: at,
      facts: begins ? [begun, ...ticks] : ticks,
    }
  }
}

/** Where facts of a bench belong. */
export async function placeOfFacts(client) {
  const { rows } = await client.query(
    "select y.site_id as site, y.id as system, y.train_version as version from system y join site s on s.id = y.site_id where s.name = 'Boatyard wash-down' limit 1",
  )
  const protocol = Number(
    /PROTOCOL_VERSION = (\d+)/.exec(readFileSync(new URL('../../packages/contract/src/protocol.ts', import.meta.url), 'utf8'))?.[1],
  )
  return { ...rows[0], protocol }
}
