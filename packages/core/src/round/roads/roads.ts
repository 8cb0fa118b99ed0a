/** A schematic road net with ferries that keep a timetable. Minutes throughout; departures are minutes after midnight. */
export interface Roads {
  places: readonly { id: string; name: string; island: string; lon: number; lat: number }[]
  /** Both ways. A road with `open` spans may be entered in them only: a causeway at high water is none. */
  roads: readonly { from: string; to: string; minutes: number; open?: readonly (readonly [number, number])[] | undefined }[]
  ferries: readonly { from: string; to: string; minutes: number; boardMin: number; departures: readonly number[] }[]
}

export interface Journey {
  arriveMin: number
  /** First sailing on the way; null on dry land. */
  sailsMin: number | null
  /** Places passed, the first and the last included. */
  via: string[]
}

interface Edge {
  to: number
  minutes: number
  ferry: { boardMin: number; departures: readonly number[] } | null
  open: readonly (readonly [number, number])[] | null
}

export interface Net {
  ids: string[]
  edges: Edge[][]
}

/** Reads a net once; a ferry or road to a place that is not there throws. */
export function netOf({ places, roads, ferries }: Roads): Net {
  const ids = places.map(({ id }) => id)
  const at = new Map(ids.map((id, index) => [id, index]))
  const edges: Edge[][] = ids.map(() => [])
  const place = (id: string): number => {
    const index = at.get(id)
    if (index === undefined) throw new RangeError(`expected a place of the net, got ${id}`)
    return index
  }
  for (const { from, to, minutes, open = null } of roads) {
    edges[place(from)]?.push({ to: place(to), minutes, ferry: null, open })
    edges[place(to)]?.push({ to: place(from), minutes, ferry: null, open })
  }
  for (const { from, to, minutes, boardMin, departures } of ferries)
    edges[place(from)]?.push({ to: place(to), minutes, ferry: { boardMin, departures: [...departures].sort((a, b) => a - b) }, open: null })
  return { ids, edges }
}

/** When the far end of an edge is reached, and the sailing where it is one; null after the last ferry, or where a road opens no more. */
function along({ minutes, ferry, open }: Edge, at: number): { arrive: number; sails: number | null } | null {
  if (ferry === null) {
    if (open === null) return { arrive: at + minutes, sails: null }
    const enter = open.reduce((least, [from, to]) => (at <= to ? Math.min(least, Math.max(at, from)) : least), Number.POSITIVE_INFINITY)
    return enter === Number.POSITIVE_INFINITY ? null : { arrive: enter + minutes, sails: null }
  }
  const sails = ferry.departures.find((departure) => departure >= at + ferry.boardMin)
  return sails === undefined ? null : { arrive: sails + minutes, sails }
}

/** Earliest arrivals everywhere for a departure, by place of the net. */
export interface Arrivals {
  /** Minutes after midnight; infinite where nothing gets that day. */
  arriveMin: Float64Array
  /** First sailing on the way; −1 on dry land. */
  sailsMin: Int32Array
  /** The place before on the way; −1 at its start. */
  before: Int32Array
}

/** Dijkstra 1959, over edges that wait for their sailing. */
export function arrivalsFrom(net: Net, from: number, departMin: number): Arrivals {
  const n = net.ids.length
  const arriveMin = new Float64Array(n).fill(Number.POSITIVE_INFINITY)
  const before = new Int32Array(n).fill(-1)
  const sailsMin = new Int32Array(n).fill(-1)
  const done = new Uint8Array(n)
  arriveMin[from] = departMin
  for (;;) {
    let at = -1
    let least = Number.POSITIVE_INFINITY
    for (let one = 0; one < n; one++)
      if (done[one] === 0 && (arriveMin[one] as number) < least) {
        at = one
        least = arriveMin[one] as number
      }
    if (at < 0) return { arriveMin, sailsMin, before }
    done[at] = 1
    for (const edge of net.edges[at] as Edge[]) {
      const there = along(edge, least)
      if (there === null || there.arrive >= (arriveMin[edge.to] as number)) continue
      arriveMin[edge.to] = there.arrive
      before[edge.to] = at
      sailsMin[edge.to] = sailsMin[at] === -1 ? (there.sails ?? -1) : (sailsMin[at] as number)
    }
  }
}

/** The journeys of a departure, with the places they pass; null where nothing gets that day. */
export function journeysFrom(net: Net, from: number, departMin: number): (Journey | null)[] {
  const { arriveMin, sailsMin, before } = arrivalsFrom(net, from, departMin)
  return net.ids.map((_, to) => {
    if (arriveMin[to] === Number.POSITIVE_INFINITY) return null
    const via: string[] = []
    for (let at = to; at >= 0; at = before[at] as number) via.unshift(net.ids[at] as string)
    return { arriveMin: arriveMin[to] as number, sailsMin: sailsMin[to] === -1 ? null : (sailsMin[to] as number), via }
  })
}
