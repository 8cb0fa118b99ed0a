import { TextDecoder } from 'node:util'
import { matchColumns } from '@evenround/core/intake'
import Papa from 'papaparse'
import { countsText, linesText } from './intake-words'
import { EXAMPLE_LIST, linesToCorrect, textOfBytes } from './list-text'

// The browser has it; the test's page does not.
Object.assign(globalThis, { TextDecoder })

const bytes = (...values: number[]): ArrayBuffer => new Uint8Array(values).buffer

test('the example’s headings are all understood', () => {
  const { data } = Papa.parse<string[]>(EXAMPLE_LIST.replace('\uFEFF', ''))
  expect(matchColumns(data[0] ?? []).filter((field) => field === null)).toEqual([])
  expect(data[1]).toHaveLength(data[0]?.length ?? 0)
})

test('a list from an older desk keeps its letters', () => {
  // "Café" as UTF-8 (C3 A9) and as Windows-1252 (E9).
  expect(textOfBytes(bytes(0x43, 0x61, 0x66, 0xc3, 0xa9))).toBe('Café')
  expect(textOfBytes(bytes(0x43, 0x61, 0x66, 0xe9))).toBe('Café')
})

test('the lines to mend stand as they came, with what is wrong beside them, parted as the list was', () => {
  const list = 'Site;Fitted\nOtter;31.02.2025\nHeron;01.02.2025\n;02.02.2025\n'
  const problems = [
    { line: 2, problems: [{ heading: 'Fitted', message: 'There is no such day: 31.02.2025' }] },
    { line: 4, problems: [{ heading: null, message: 'No site: whose line is this?' }] },
  ]
  expect(linesToCorrect(list, problems)).toBe(
    '\uFEFFSite;Fitted;To correct\r\nOtter;31.02.2025;Fitted: There is no such day: 31.02.2025\r\n;02.02.2025;No site: whose line is this?\r\n',
  )
})

test('a cell that a spreadsheet would run as a formula is kept a text', () => {
  const text = linesToCorrect('Site,Note\n=1+1,x\n', [{ line: 2, problems: [{ heading: null, message: 'm' }] }])
  expect(text).toContain("'=1+1")
})

test('what a list makes, in words', () => {
  expect(countsText({ sites: 1, systems: 2, parts: 3, undated: 1, readings: 0 })).toBe(
    '1 new site, 2 new systems, 3 parts (1 fitted nobody knows when)',
  )
  expect(countsText({ sites: 0, systems: 0, parts: 0, undated: 0, readings: 0 })).toBe('nothing new')
  expect(linesText(40, 5)).toBe('40 lines: 35 can be imported, 5 cannot yet.')
  expect(linesText(1, 0)).toBe('One line, and it can be imported.')
  expect(linesText(1200, 0)).toBe('1,200 lines, and all can be imported.')
})
