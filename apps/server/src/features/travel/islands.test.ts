import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { mapFeatureSchema } from '@evenround/contract/geo'
import type { PlaceDto } from '@evenround/contract/rounds'
import { driveMinutes, NOT_TODAY_MIN, sailingOf, type Travel } from '@evenround/core/round/roads'
import { DEMO_CUSTOMERS } from '../../demo/customers'
import { DEMO_SITES } from '../../demo/world'
import { ISLAND_PLACES, islandTravel, MAP } from './islands'

const ROADS = { winding: 1.3, crossings: [], road: null }
let travel: Travel
beforeAll(async () => {
  travel = await islandTravel.between(ISLAND_PLACES, ROADS)
})

/** Minutes for a drive that leaves then. */
function lasts(from: string, to: string, at: number): number {
  const [a, b] = [travel.places.indexOf(from), travel.places.indexOf(to)]
  const matrix = travel.travelByHour.findLast(({ fromMin }) => fromMin <= at)?.travelMin ?? travel.travelMin
  return matrix[a]?.[b] ?? Number.NaN
}
const TOWN = 'great-skellan/skellan-town'

test('every customer of the demo lives at a place of the map, and the script writes the same map again', () => {
  const known = new Set(ISLAND_PLACES.map(({ island, name }) => `${island}/${name}`))
  for (const { island, village } of [...DEMO_SITES, ...DEMO_CUSTOMERS]) expect(known).toContain(`${island}/${village}`)
  const folder = mkdtempSync(join(tmpdir(), 'islands-'))
  try {
    const again = join(folder, 'again.json')
    execFileSync(process.execPath, [join(__dirname, '../../../../../bin/lib/islands.mjs'), again])
    const written = (file: string): unknown => JSON.parse(readFileSync(file, 'utf8'))
    expect(written(again)).toEqual(written(join(__dirname, 'skellan-sound.geo.json')))
  } finally {
    rmSync(folder, { recursive: true })
  }
})

test('the map is GeoJSON far out at sea, each island round its own villages', () => {
  for (const feature of MAP) expect(mapFeatureSchema.safeParse(feature).success).toBe(true)
  for (const { lon, lat } of ISLAND_PLACES) {
    expect(Math.abs(lon + 21.6)).toBeLessThan(0.5)
    expect(Math.abs(lat - 58.3)).toBeLessThan(0.3)
  }
  expect(MAP.filter(({ properties }) => properties.kind === 'island')).toHaveLength(5)
})

test('on one island the hour makes no difference; over the bridge neither', () => {
  for (const to of ['great-skellan/hollin', 'great-skellan/tarrow', 'thrawn/thrawn-head']) {
    const all = new Set([360, 480, 600, 690, 760, 900, 1080].map((at) => lasts(TOWN, to, at)))
    expect(all.size).toBe(1)
    expect([...all][0]).toBeGreaterThan(5)
  }
})

test('the causeway is under water about noon: over it by nine it is a drive, at eleven it is a wait or a ferry', () => {
  const early = lasts('great-skellan/weir', 'little-skellan/narrows', 540)
  expect(early).toBe(14)
  expect(lasts('great-skellan/weir', 'little-skellan/narrows', 675)).toBeGreaterThan(60)
})

test('to the outer islands there is the ferry, with its sailing, and after the last one nothing', () => {
  const [a, b] = [TOWN, 'murrow-holm/slip'].map((id) => travel.places.indexOf(id)) as [number, number]
  const sailed = new Set(travel.sails.map(({ sailsMin }) => sailsMin[a]?.[b] ?? -1))
  // Seven rounds a day call there on the way out or back; those before eight are too early to reach.
  for (const sails of [510, 710, 910]) expect(sailed).toContain(sails)
  expect(lasts(TOWN, 'murrow-holm/slip', 1150)).toBe(NOT_TODAY_MIN)
})

test('leaving later is never there earlier, within what a quarter of an hour is rounded to', () => {
  for (let at = 360; at < 1080; at += 15)
    for (const to of travel.places.slice(0, 8)) {
      const [now, next] = [lasts(TOWN, to, at), lasts(TOWN, to, at + 15)]
      if (next < NOT_TODAY_MIN) expect(now).toBeLessThanOrEqual(next + 15 + 14)
    }
})

test('places no net knows are estimated over land, the same at any hour', async () => {
  const strange = [
    { id: 'x', name: 'x', island: 'x', lon: 0, lat: 50 },
    { id: 'y', name: 'y', island: 'x', lon: 0, lat: 50.1 },
  ]
  const travel = await islandTravel.between(strange, ROADS)
  // A tenth of a degree is 11.12 km, with a winding of 1.3 14.46 km of road: 4.8 + 10.7 + 4.1 minutes. No table is made of them.
  for (const [from, to, minutes] of [
    ['x', 'y', 20],
    ['y', 'x', 20],
    ['x', 'x', 0],
  ] as const)
    for (const hour of [480, 1000]) expect(driveMinutes(travel, from, to, hour)).toBe(minutes)
  expect([travel.travelMin, travel.travelByHour, travel.estimated]).toEqual([[], [], true])
})

test('a house between the villages hangs on its nearest: over land on its own island, by the ferry to another one', async () => {
  const [town, slip] = [TOWN, 'murrow-holm/slip'].map((id) => ISLAND_PLACES.find((place) => place.id === id)) as [PlaceDto, PlaceDto]
  // A hundredth of a degree of latitude is 1.11 km: 1.45 km of road, three and a half minutes.
  const house = { id: 'house', name: 'house', island: town.island, lon: town.lon, lat: town.lat + 0.01 }
  const some = await islandTravel.between([town, slip, house], ROADS)
  expect(some.places).toEqual([TOWN, slip.id, 'house'])
  const at = (matrixes: Travel, minute: number, from: number, to: number) =>
    (matrixes.travelByHour.findLast(({ fromMin }) => fromMin <= minute)?.travelMin ?? matrixes.travelMin)[from]?.[to] as number
  expect([at(some, 540, 2, 0), at(some, 540, 0, 2)]).toEqual([3, 3])
  for (const minute of [540, 600, 720]) {
    expect(at(some, minute, 0, 1)).toBe(lasts(TOWN, slip.id, minute))
    expect(at(some, minute, 2, 1)).toBeGreaterThanOrEqual(at(some, minute, 0, 1))
    expect(at(some, minute, 2, 1)).toBeLessThanOrEqual(NOT_TODAY_MIN)
  }
})

test('a bridge of the firm’s own stands beside the islands’ roads', async () => {
  const [town, slip] = [TOWN, 'murrow-holm/slip'].map((id) => ISLAND_PLACES.find((place) => place.id === id)) as [PlaceDto, PlaceDto]
  const end = ({ island, lat, lon }: PlaceDto) => ({ area: island, lat, lon })
  const bridge = {
    id: 'b',
    kind: 'bridge' as const,
    from: end(town),
    to: end(slip),
    minutes: 9,
    boardMin: 0,
    departures: [],
    returns: [],
    open: [],
  }
  const over = await islandTravel.between([town, slip], { winding: 1.3, crossings: [bridge], road: null })
  // A minute from the village to the bridge on either side.
  for (const minute of [480, 600, 1150]) {
    expect(driveMinutes(over, TOWN, slip.id, minute)).toBe(11)
    expect(sailingOf(over, TOWN, slip.id, minute)).toBeNull()
  }
  const without = await islandTravel.between([town, slip], ROADS)
  expect(driveMinutes(without, TOWN, slip.id, 1150)).toBe(NOT_TODAY_MIN)
})
