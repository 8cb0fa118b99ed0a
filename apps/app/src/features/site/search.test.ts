import type { SiteRowDto } from '@evenround/contract/site'
import { searchSites } from './search'

const row = (name: string, village: string, island: string): SiteRowDto => ({
  id: name,
  name,
  village,
  island,
  systems: 1,
  nextDue: null,
  spent: 0,
  overdue: 0,
  hold: null,
})
const sites = [
  row('Dr Hale’s dental surgery', 'Skellan Town', 'Great Skellan'),
  row('Café Évora', 'Hollin', 'Great Skellan'),
  row('Boatyard wash-down', 'Quay', 'Thrawn'),
]
const names = (typed: string) => searchSites(sites, typed).map(({ name }) => name)

test('each typed word begins a word of name, village or island; accents and apostrophes do not matter', () => {
  expect(names('')).toHaveLength(3)
  expect(names('hales')).toEqual(['Dr Hale’s dental surgery'])
  expect(names("hale's den")).toEqual(['Dr Hale’s dental surgery'])
  expect(names('cafe')).toEqual(['Café Évora'])
  expect(names('great')).toHaveLength(2)
  expect(names('down thr')).toEqual(['Boatyard wash-down'])
  expect(names('yard')).toEqual([])
})

test('ten thousand sites are searched within a keystroke’s patience', () => {
  const many = Array.from({ length: 10_000 }, (_, index) => row(`Site ${index} of many`, 'Quay', 'Thrawn'))
  expect(searchSites(many, 'site 9999')).toHaveLength(1)
})
