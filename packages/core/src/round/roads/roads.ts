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
    const enter =
      open === null ? at : open.map(([from, to]) => (at <= to ? Math.max(at, from) : Number.POSITIVE_INFINITY)).sort((a, b) => a - b)[0]
    return enter === undefined || enter === Number.POSITIVE_INFINITY ? null : { arrive: enter + minutes, sails: null }
  }
  const sails = ferry.departures.find((departure) => departure >= at + ferry.boardMin)
  return sails === undefined ? null : { arrive: sails + minutes, sails }
}

/** Earliest arrivals everywhere for a departure (Dijkstra 1959, over edges that wait for their sailing); null where nothing gets that day. */
export function journeysFrom(net: Net, from: number, departMin: number): (Journey | null)[] {
  const n = net.ids.length
  const arrive = new Float64Array(n).fill(Number.POSITIVE_INFINITY)
  const before = new Int32Array(n).fill(-1)
  const sails: (number | null)[] = new Array(n).fill(null)
  const done = new Uint8Array(n)
  arrive[from] = departMin
  for (;;) {
    let at = -1
    for (let one = 0; one < n; one++)
      if (!done[one] && arrive[one] !== Number.POSITIVE_INFINITY && (at < 0 || (arrive[one] as number) < (arrive[at] as number))) at = one
    if (at < 0) break
    done[at] = 1
    for (const edge of net.edges[at] as Edge[]) {
      const there = along(edge, arrive[at] as number)
      if (there === null || there.arrive >= (arrive[edge.to] as number)) continue
      arrive[edge.to] = there.arrive
      before[edge.to] = at
      sails[edge.to] = sails[at] ?? there.sails
    }
  }
  return net.ids.map((_, to) => {
    if (arrive[to] === Number.POSITIVE_INFINITY) return null
    const via: string[] = []
    for (let at = to; at >= 0; at = before[at] as number) via.unshift(net.ids[at] as string)
    return { arriveMin: arrive[to] as number, sailsMin: sails[to] ?? null, via }
  })
}
