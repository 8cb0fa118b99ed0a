import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { setTimeout as sleep } from 'node:timers/promises'

/** How the server behaves from now on. */
export const BEHAVIOURS = ['sound', 'slow', 'page', 'short', 'metres', 'busy', 'moved', 'no-roads', 'elsewhere'] as const
export type Behaviour = (typeof BEHAVIOURS)[number]

export interface StandInRoads {
  address: string
  /** Questions answered so far, by how many points each asked about. */
  asked: number[]
  behave: (how: Behaviour) => void
  close: () => Promise<void>
}

const SLOW_MS = 3000
/** There is only ice. */
const NO_ROADS_NORTH_OF = 80
const EARTH_KM = 6371
const toRadians = (degrees: number): number => (degrees * Math.PI) / 180

/**
 * Seconds in a made-up land: roads run in two directions only, a little askew to north; every kilometre and a half has a junction that costs
 * time, more to the east of zero; southwards the lanes are one-way and lead round a block. Nothing of it is how the program estimates.
 */
export function secondsInMadeUpLand([lonA, latA]: readonly [number, number], [lonB, latB]: readonly [number, number]): number {
  const east = EARTH_KM * toRadians(lonB - lonA) * Math.cos(toRadians((latA + latB) / 2))
  const north = EARTH_KM * toRadians(latB - latA)
  const [cos, sin] = [Math.cos(0.3), Math.sin(0.3)]
  const [along, across] = [Math.abs(east * cos + north * sin), Math.abs(north * cos - east * sin)]
  const km = along + across
  const junctions = Math.floor(km / 1.5)
  const block = north < -0.2 ? 40 : 0
  return (along / 58) * 3600 + (across / 43) * 3600 + junctions * (lonA > 0 ? 14 : 9) + block
}

/**
 * A stand-in for a routing server that speaks the open table interface, on loopback: `GET /table/v1/driving/lon,lat;…?annotations=duration`.
 * It can be told to be slow, or to answer what is no answer.
 */
export async function standInRoads(port = 0, onAsked?: (points: number) => void): Promise<StandInRoads> {
  let how: Behaviour = 'sound'
  const asked: number[] = []
  const server: Server = createServer((request, response) => {
    const send = (status: number, body: unknown, type = 'application/json'): void => {
      response.writeHead(status, { 'content-type': type })
      response.end(typeof body === 'string' ? body : JSON.stringify(body))
    }
    const path = /^\/table\/v1\/driving\/([-\d.,;]+)(?:\?|$)/.exec(decodeURIComponent(request.url ?? ''))
    if (!path) return send(404, { code: 'InvalidUrl', message: 'expected /table/v1/driving/lon,lat;lon,lat' })
    const points = (path[1] as string).split(';').map((point) => point.split(',').map(Number) as [number, number])
    if (points.length > 100) return send(400, { code: 'TooBig', message: 'too many table coordinates' })
    if (points.some(([, lat]) => lat > NO_ROADS_NORTH_OF)) return send(400, { code: 'NoSegment', message: 'no road near a coordinate' })
    asked.push(points.length)
    onAsked?.(points.length)
    const table = points.map((from) => points.map((to) => (from === to ? 0 : Math.round(secondsInMadeUpLand(from, to) * 10) / 10)))
    const sources = points.map((location) => ({ location, name: '', distance: how === 'elsewhere' ? 480_000 : 12.5 }))
    const answer = { code: 'Ok', durations: table as (number | null)[][], sources, destinations: sources }
    if (how === 'busy') return send(503, { code: 'Busy' })
    if (how === 'moved') {
      response.writeHead(302, { location: 'http://127.0.0.1:1/table/v1/driving/0,0' }).end()
      return
    }
    if (how === 'page') return send(200, '<!doctype html><title>Welcome</title>', 'text/html')
    if (how === 'short') return send(200, { ...answer, durations: table.slice(1) })
    if (how === 'metres') return send(200, { ...answer, durations: table.map((row) => row.map((seconds) => seconds / 60)) })
    if (how === 'no-roads') return send(200, { ...answer, durations: table.map((row, a) => row.map((s, b) => (a === b ? s : null))) })
    if (how === 'slow') {
      void sleep(SLOW_MS, undefined, { ref: false }).then(() => send(200, answer))
      return
    }
    send(200, answer)
  })
  await new Promise<void>((resolve) => server.listen(port, '127.0.0.1', resolve))
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    asked,
    behave: (next) => {
      how = next
    },
    close: async () => {
      server.closeAllConnections()
      await new Promise((resolve) => server.close(resolve))
    },
  }
}
