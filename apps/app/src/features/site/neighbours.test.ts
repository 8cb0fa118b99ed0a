import type { SiteRowDto } from '@evenround/contract/site'
import { neighboursOf } from './neighbours'

const row = (id: string, name: string, lat: number | null = null, lon: number | null = null): SiteRowDto => ({
  id,
  name,
  village: '',
  island: '',
  lat,
  lon,
  systems: 1,
  nextDue: null,
  spent: 0,
  overdue: 0,
  hold: null,
})
const ROWS = [
  row('loft', 'Net loft cottage', 58.31, -21.62),
  row('cafe', 'Café Weir', 58.3101, -21.62),
  row('far', 'Lantern bakery', 58.4, -21.62),
]
const names = (name: string, at: { lat: number; lon: number } | null): string[] =>
  neighboursOf(ROWS, name, at).map(({ row: { id }, why }) => `${id} ${why}`)

test('the same name, however it is written, and the same door are offered; the nearest first', () => {
  expect(names('  cafe weir', null)).toEqual(['cafe same-name'])
  // A ten-thousandth of a degree is eleven metres.
  expect(names('New tenant', { lat: 58.31001, lon: -21.62 })).toEqual(['loft same-door', 'cafe same-door'])
  expect(names('Somebody else', { lat: 58.32, lon: -21.62 })).toEqual([])
  expect(names('', null)).toEqual([])
})
