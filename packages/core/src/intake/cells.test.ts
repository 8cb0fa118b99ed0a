import fc from 'fast-check'
import { MEDIA, MEDIA_PROFILES, usualHousing } from '../catalogue'
import { FAMILIES } from '../train'
import { notKnown, readDay, readFamily, readMedium, readQuantity, readSource } from './cells'
import { matchColumns, unitOfHeading } from './fields'

const value = <T>(cell: { ok: true; value: T } | { ok: false; message: string }): T | string => (cell.ok ? cell.value : cell.message)

test.each([
  ['mains', 'municipal'],
  ['Town water', 'municipal'],
  ['borehole', 'drilled-well'],
  ['Shallow well', 'shallow-well'],
  ['burn', 'surface'],
  ['Rain', 'roof'],
])('water from “%s” is %s', (text, source) => expect(value(readSource(text))).toBe(source))

test('a source nobody knows is answered with those we know', () => {
  expect(value(readSource('the moon'))).toBe('“the moon” is no source we know: municipal, drilled well, shallow well, surface or roof')
})

test('every medium and every family is known by its own name and key', () => {
  for (const media of MEDIA)
    expect([value(readMedium(media)), value(readMedium(MEDIA_PROFILES[media].name.toUpperCase()))]).toEqual([media, media])
  for (const [key, { name }] of Object.entries(FAMILIES))
    expect([value(readFamily(key)), value(readFamily(` ${name} `))]).toEqual([key, key])
  expect(value(readMedium('GAC'))).toBe('carbon-block')
  expect(value(readMedium('flux capacitor'))).toMatch(/is no kind of part we know/)
  expect(value(readFamily('teapot'))).toMatch(/is no system we know; one of: under-sink, two stages/)
  expect(usualHousing('membrane')).toBe('membrane-vessel')
})

test.each(['', '?', ' unknown ', 'N/A', 'Not known', "don't know", '–'])('“%s” is not known', (text) => expect(notKnown(text)).toBe(true))
test.each(['0', 'never', '2025-01-01'])('“%s” is something', (text) => expect(notKnown(text)).toBe(false))

test('numbers take the unit of their heading, then of their cell, and either decimal mark', () => {
  const reading = { dimension: 'volume' as const, unit: unitOfHeading('Counter (gal)'), gallon: 'imperial' as const, decimal: '.' as const }
  // 100 imperial gallons of 4.54609 L.
  expect(value(readQuantity('100', reading))).toEqual({ value: expect.closeTo(454.609, 6), unit: 'imp-gal' })
  expect(value(readQuantity('100 L', reading))).toEqual({ value: 100, unit: 'l' })
  const pressure = { dimension: 'pressure' as const, unit: null, gallon: 'us' as const, decimal: ',' as const }
  expect(value(readQuantity('2,5 bar', pressure))).toEqual({ value: 250, unit: 'bar' })
  expect(value(readQuantity('2.5 bar', pressure))).toEqual({ value: 250, unit: 'bar' })
  expect(value(readQuantity('12 furlongs', pressure))).toMatch(/a unit that is not understood here: kpa, bar, psi, mpa/)
})

test('a written day reads back whatever its style', () => {
  const day = fc
    .date({ min: new Date('1990-01-01T00:00:00Z'), max: new Date('2049-12-31T00:00:00Z'), noInvalidDate: true })
    .map((date) => date.toISOString().slice(0, 10))
  fc.assert(
    fc.property(day, (iso) => {
      const [year, month, date] = iso.split('-') as [string, string, string]
      for (const mark of ['/', '.', '-']) {
        expect(value(readDay([date, month, year].join(mark), 'day-first'))).toBe(iso)
        expect(value(readDay([month, date, year].join(mark), 'month-first'))).toBe(iso)
      }
      expect(value(readDay(iso, 'month-first'))).toBe(iso)
    }),
  )
})

test('no field is given to two columns', () => {
  const heading = fc.constantFrom('Site', 'Customer', 'Name', 'Part', 'Cartridge', 'Fitted', 'Installed', 'Notes', 'Access', 'Town', '')
  fc.assert(
    fc.property(fc.array(heading, { maxLength: 12 }), (headings) => {
      const fields = matchColumns(headings).filter((field) => field !== null)
      expect(new Set(fields).size).toBe(fields.length)
      expect(matchColumns(headings)).toHaveLength(headings.length)
    }),
  )
})
