// Writes the demo's islands, villages, roads and ferry as one GeoJSON file: `node bin/lib/islands.mjs [FILE]`. Seeded: the same file every time.
import { writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './paths.mjs'

const SEED = 6
/** Nothing is there but sea. */
const [LAT, LON] = [58.3, -21.6]
const KM_A_LAT = 111.2
const KM_A_LON = 58.4

let state = SEED
const random = () => {
  state = (state + 0x6d2b79f5) | 0
  let t = Math.imul(state ^ (state >>> 15), 1 | state)
  t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
  return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
}
const round = (value, digits) => Math.round(value * 10 ** digits) / 10 ** digits
const at = ([x, y]) => [round(LON + x / KM_A_LON, 5), round(LAT + y / KM_A_LAT, 5)]

/** Kilometres east and north of the middle of the sound. */
const VILLAGES = [
  ['Great Skellan', 'Skellan Town', -3, -1],
  ['Great Skellan', 'Quay', -0.4, -2.2],
  ['Great Skellan', 'Hollin', -7.6, 2.6],
  ['Great Skellan', 'Tarrow', -11.4, -2.4],
  ['Great Skellan', 'Weir', -1.6, 4.8],
  ['Little Skellan', 'Narrows', 4.2, 5.6],
  ['Little Skellan', 'Weir', 6.6, 8.2],
  ['Little Skellan', 'Loam', 9.6, 5.2],
  ['Little Skellan', 'Far Strand', 11.6, 8.8],
  ['Thrawn', 'Quay', -1.4, -6.4],
  ['Thrawn', 'Thrawn Head', -5.6, -9.6],
  ['Murrow Holm', 'Slip', 7.4, -1.2],
  ['Murrow Holm', 'Holm', 9.8, -2.6],
  ['Murrow Holm', 'Far Strand', 12.8, -1],
  ['The Anvil', 'Anvil Point', 5.4, -9],
  ['The Anvil', 'The Light', 8.6, -11.4],
]
const slug = (text) => text.toLowerCase().replaceAll(' ', '-')
const idOf = (island, village) => `${slug(island)}/${slug(village)}`
const spots = new Map(VILLAGES.map(([island, village, x, y]) => [idOf(island, village), [x, y]]))

const gs = (village) => idOf('Great Skellan', village)
const ls = (village) => idOf('Little Skellan', village)
const mh = (village) => idOf('Murrow Holm', village)
const ROADS = [
  [gs('Skellan Town'), gs('Quay')],
  [gs('Skellan Town'), gs('Hollin')],
  [gs('Skellan Town'), gs('Weir')],
  [gs('Hollin'), gs('Tarrow')],
  [gs('Hollin'), gs('Weir')],
  [gs('Skellan Town'), gs('Tarrow')],
  [ls('Narrows'), ls('Weir')],
  [ls('Narrows'), ls('Loam')],
  [ls('Weir'), ls('Far Strand')],
  [ls('Loam'), ls('Far Strand')],
  ['thrawn/quay', 'thrawn/thrawn-head'],
  [mh('Slip'), mh('Holm')],
  [mh('Holm'), mh('Far Strand')],
  ['the-anvil/anvil-point', 'the-anvil/the-light'],
]
const KMH = 36
const WINDING = 1.3
const CAUSEWAY_MIN = 14
/** Dry sand and stone either side of the middle of the day's high water. */
const CAUSEWAY_OPEN = [
  [330, 645],
  [765, 1140],
]
const BRIDGE_MIN = 9

const length = ([x, y], [u, w]) => Math.hypot(x - u, y - w)
/** A road bends a little to the side of the straight line. */
function line(from, to) {
  const [a, b] = [spots.get(from), spots.get(to)]
  const side = (random() - 0.5) * 0.28
  const middle = [(a[0] + b[0]) / 2 - (b[1] - a[1]) * side, (a[1] + b[1]) / 2 + (b[0] - a[0]) * side]
  return { type: 'LineString', coordinates: [a, middle, b].map(at) }
}

/** One ferry goes round and back: minutes after the first quay at which it leaves each stop. */
const STOPS = [gs('Quay'), ls('Narrows'), mh('Slip'), 'the-anvil/anvil-point', gs('Quay')]
const LEGS = [15, 22, 22, 31]
const STAY = 4
const BOARD_MIN = 10
const ROUNDS = { on: [410, 510, 710, 910], back: [615, 820, 1010] }
function sailings() {
  const all = new Map()
  const run = (stops, legs, starts) => {
    for (const start of starts) {
      let leave = start
      const times = stops.map((stop, index) => {
        const arrive = index === 0 ? start : leave + legs[index - 1]
        leave = index === 0 ? start : arrive + STAY
        return { stop, arrive, leave }
      })
      for (let i = 0; i < times.length; i++)
        for (let j = i + 1; j < times.length; j++) {
          const [from, to] = [times[i], times[j]]
          if (from.stop === to.stop) continue
          const key = `${from.stop}>${to.stop}>${to.arrive - from.leave}`
          all.set(key, [...(all.get(key) ?? []), from.leave])
        }
    }
  }
  run(STOPS, LEGS, ROUNDS.on)
  run([...STOPS].reverse(), [...LEGS].reverse(), ROUNDS.back)
  return [...all].map(([key, departures]) => {
    const [from, to, minutes] = key.split('>')
    return { from, to, minutes: Number(minutes), departures }
  })
}

/** A coast round an island's villages. */
function coast(island) {
  const own = VILLAGES.filter(([name]) => name === island).map(([, , x, y]) => [x, y])
  const middle = [own.reduce((sum, [x]) => sum + x, 0) / own.length, own.reduce((sum, [, y]) => sum + y, 0) / own.length]
  const ring = []
  for (let step = 0; step < 28; step++) {
    const angle = (2 * Math.PI * step) / 28
    const way = [Math.cos(angle), Math.sin(angle)]
    // As far as the furthest village that way, and a strip of land beyond it.
    const reach = Math.max(0.8, ...own.map(([x, y]) => (x - middle[0]) * way[0] + (y - middle[1]) * way[1])) + 1 + 0.6 * random()
    ring.push(at([middle[0] + way[0] * reach, middle[1] + way[1] * reach]))
  }
  return { type: 'Polygon', coordinates: [[...ring, ring[0]]] }
}

const feature = (properties, geometry) => ({ type: 'Feature', properties, geometry })
const features = [
  ...[...new Set(VILLAGES.map(([island]) => island))].map((name) => feature({ kind: 'island', name }, coast(name))),
  ...VILLAGES.map(([island, name, x, y]) =>
    feature({ kind: 'place', id: idOf(island, name), name, island }, { type: 'Point', coordinates: at([x, y]) }),
  ),
  ...ROADS.map(([from, to]) =>
    feature({ kind: 'road', from, to, minutes: Math.round((length(spots.get(from), spots.get(to)) * WINDING * 60) / KMH) }, line(from, to)),
  ),
  feature(
    { kind: 'road', name: 'the causeway', from: gs('Weir'), to: ls('Narrows'), minutes: CAUSEWAY_MIN, open: CAUSEWAY_OPEN },
    line(gs('Weir'), ls('Narrows')),
  ),
  feature({ kind: 'road', name: 'the bridge', from: gs('Quay'), to: 'thrawn/quay', minutes: BRIDGE_MIN }, line(gs('Quay'), 'thrawn/quay')),
  ...sailings().map((sailing) => feature({ kind: 'ferry', boardMin: BOARD_MIN, ...sailing }, line(sailing.from, sailing.to))),
]
const text = `{\n"type": "FeatureCollection",\n"features": [\n${features.map((one) => JSON.stringify(one)).join(',\n')}\n]\n}\n`
writeFileSync(process.argv[2] ?? join(ROOT, 'apps/server/src/features/travel/skellan-sound.geo.json'), text)
