import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { catalogues, faultsOf, markOf, messagesOf } from './messages.mjs'
import { ROOT } from './paths.mjs'

const said = (source) => new Map(messagesOf('apps/app/screen.tsx', source).map((one) => [one.id, one]))
const TICK = '`'

test('what is said is found with its kind and its places numbered', () => {
  const source = [
    `const a = say${TICK}Open $`,
    `{tap} again${TICK}\nconst b = caution${TICK}Never enter.${TICK}\nconst c = many(n, 'part', 'parts')\nconst d = sayFor('hours')${TICK}Open${TICK}`,
  ].join('')
  expect(messagesOf('apps/app/screen.tsx', source).map(({ id, kind, line }) => [id, kind, line])).toEqual([
    ['Open {0} again', 'say', 1],
    ['Never enter.', 'caution', 2],
    ['# part|# parts', 'many', 3],
    ['Open @hours', 'say', 4],
  ])
})

test('a complete catalogue has no faults; what is missing, empty, left over or short of a place has one each', () => {
  const messages = said(`say${TICK}Wait {minutes}, then $`.concat(`{what}${TICK}`))
  expect(faultsOf('de', { 'Wait {minutes}, then {0}': 'Dann {0}, nach {minutes}' }, messages)).toEqual([])
  expect(faultsOf('de', {}, messages)[0]).toMatch(/is missing/)
  expect(faultsOf('de', { 'Wait {minutes}, then {0}': ' ' }, messages)[0]).toMatch(/has no text/)
  expect(faultsOf('de', { 'Wait {minutes}, then {0}': 'Dann {0}' }, messages)[0]).toMatch(/has other places/)
  expect(faultsOf('de', { 'Wait {minutes}, then {0}': 'Dann {0}, nach {minutes}', Gone: 'Weg' }, messages)[0]).toMatch(/is said nowhere/)
})

test('plural forms are asked for as the language has them', () => {
  const messages = said(`many(n, 'part', 'parts')`)
  const id = '# part|# parts'
  expect(faultsOf('de', { [id]: { one: '# Teil', other: '# Teile' } }, messages)).toEqual([])
  expect(faultsOf('de', { [id]: { other: '# Teile' } }, messages)[0]).toMatch(/no form for “one”/)
  expect(faultsOf('de', { [id]: { one: 'ein Teil', other: '# Teile' } }, messages)[0]).toMatch(/no form for “one” with its #/)
  expect(faultsOf('pl', { [id]: { one: '# a', other: '# b' } }, messages).length).toBeGreaterThan(1)
})

test('nouns and meanings that are not written out cannot be found, and are refused', () => {
  expect(faultsOf('de', {}, said('many(n, one, other)'))).toEqual(['apps/app/screen.tsx: many() wants both nouns written out'])
  expect(faultsOf('de', {}, said(`sayFor(meaning)${TICK}Open${TICK}`))).toEqual([
    'apps/app/screen.tsx: sayFor() wants its meaning written out',
  ])
})

test('a server says nothing before it knows in which language', () => {
  const source = `const a = { text: say${TICK}Open${TICK} }\nconst b = { get text() { return say${TICK}Open${TICK} } }`
  expect(messagesOf('packages/core/src/a.ts', source).map(({ id, kind, line }) => [id, kind, line])).toEqual([
    ['packages/core/src/a.ts: “Open” is said before the language is known', 'wrong', 1],
    ['Open', 'say', 2],
  ])
})

test('a sentence that no catalogue knows is found on screens and in the core; names, classes and lists to be matched are none', () => {
  const wrong = (source, name = 'apps/app/src/screen.tsx') =>
    messagesOf(name, source)
      .filter(({ kind }) => kind === 'wrong')
      .map(({ id }) => id.replace(/^.*: “(.*)” is read.*$/, '$1'))
  expect(wrong('<Button label="Save it" />')).toEqual(['Save it'])
  expect(wrong('<Field unitText="mg/L" className="flex-row items-center gap-3 px-2" />')).toEqual([])
  expect(wrong(`const a = new Error('Begin at the stop first.')`)).toEqual(['Begin at the stop first.'])
  expect(wrong(`const a = new TypeError('nothing but a day may be given')`)).toEqual([])
  expect(wrong(`const a = ${TICK}$`.concat(`{what} could not be fetched here${TICK}`))).toEqual(['{0} could not be fetched here'])
  expect(wrong(`const names = ['sediment and carbon combined', 'one of the other names']`, 'packages/core/src/cells.ts')).toEqual([])
  expect(wrong(`const a = { message: 'is no source we know of' }`, 'packages/core/src/cells.ts')).toEqual(['is no source we know of'])
  expect(wrong(`const a = say${TICK}Begin at the stop first.${TICK}`)).toEqual([])
})

test('a changed word of a caution wants a new signature; what a device compares is written down beside the messages', () => {
  const words = join(ROOT, 'packages/core/src/words')
  const ids = JSON.parse(readFileSync(join(words, 'cautions/ids.json'), 'utf8'))
  for (const [language, messages] of catalogues()) {
    const mark = markOf(ids, messages)
    expect(JSON.parse(readFileSync(join(words, language, 'mark.json'), 'utf8'))).toEqual({ cautions: mark })
    expect(markOf(ids, { ...messages, [ids[0]]: `${messages[ids[0]]}!` })).not.toBe(mark)
    expect(markOf(ids.slice(1), messages)).not.toBe(mark)
  }
})
