import { type Catalogue, caution, inEnglish, languageOf, many, midSentence, numberText, retell, say, sayFor, speakBy } from '.'

/** Languages of no country: what is tested is the rule, not a translation. */
const FLAT: Catalogue = {
  locale: 'de',
  name: 'Flat',
  capitalNouns: true,
  cautionsMark: '',
  messages: {
    'Open {0} again': '{0} noch einmal öffnen',
    '{0} of {1} L': '{1} L, davon {0}',
    'Wait {minutes}, then {0}': 'Dann {0}, nach {minutes}',
    Open: 'Öffnen',
    'Open @hours': 'Offen',
    '# part|# parts': { one: '# Teil', other: '# Teile' },
    'Never enter a tank.': 'Nie in einen Tank steigen.',
  },
}
/** Three forms, as Polish has them: one, few, many. */
const THREE: Catalogue = {
  ...FLAT,
  locale: 'pl',
  messages: { '# part|# parts': { one: '# część', few: '# części', many: '# części (wiele)', other: '# części' } },
}
const speak = (catalogue: Catalogue, cautionsSignedOff = false): void => speakBy(() => ({ catalogue, cautionsSignedOff }))
afterEach(() => speakBy(() => null))

test('English is what stands between the backticks', () => {
  expect(say`Open ${'the tap'} again`).toBe('Open the tap again')
  expect(sayFor('hours')`Open`).toBe('Open')
  expect(many(1, 'part', 'parts')).toBe('1 part')
  expect(many(1204, 'part', 'parts')).toBe('1,204 parts')
  expect(caution`Never enter a tank.`).toBe('Never enter a tank.')
})

test('a language has a message by its English, with its places where it wants them', () => {
  speak(FLAT)
  expect(say`Open ${'Hahn'} again`).toBe('Hahn noch einmal öffnen')
  expect(say`${3} of ${10} L`).toBe('10 L, davon 3')
  // Places by name are filled later, by whoever knows the figures.
  expect(say`Wait {minutes}, then ${'spülen'}`).toBe('Dann spülen, nach {minutes}')
  // What is put in is never read as a place.
  expect(say`Open ${'{1}'} again`).toBe('{1} noch einmal öffnen')
  expect(say`Nobody translated ${'this'}`).toBe('Nobody translated this')
})

test('figures take the decimal mark of the language', () => {
  speak(FLAT)
  expect(say`${0.5} of ${1200} L`).toBe('1200 L, davon 0,5')
  expect(numberText(1204.25)).toBe('1.204,25')
})

test('plural forms are those of the language', () => {
  speak(FLAT)
  expect([1, 2, 1204].map((count) => many(count, 'part', 'parts'))).toEqual(['1 Teil', '2 Teile', '1.204 Teile'])
  speak(THREE)
  expect([1, 2, 5, 22].map((count) => many(count, 'part', 'parts'))).toEqual(['1 część', '2 części', '5 części (wiele)', '22 części'])
})

test('words that mean two things are told apart', () => {
  speak(FLAT)
  expect([say`Open`, sayFor('hours')`Open`]).toEqual(['Öffnen', 'Offen'])
  // A meaning that a language does not have is said in English, never in the wrong sense.
  expect(sayFor('tap')`Open`).toBe('Open')
})

test('a caution keeps its English beside it until it is signed off', () => {
  speak(FLAT)
  expect(caution`Never enter a tank.`).toBe('Nie in einen Tank steigen. [EN: Never enter a tank.]')
  speak(FLAT, true)
  expect(caution`Never enter a tank.`).toBe('Nie in einen Tank steigen.')
  expect(caution`Nobody translated this.`).toBe('Nobody translated this.')
})

test('what was written down in English is told in the language, with what it names', () => {
  expect(retell('Never enter a tank.')).toBe('Never enter a tank.')
  speak(FLAT)
  expect(retell('Never enter a tank.')).toBe('Nie in einen Tank steigen.')
  expect(retell('Open the (left) tap again', ['Open {0} again'])).toBe('the (left) tap noch einmal öffnen')
  expect(retell('Whatever somebody typed', ['Open {0} again'])).toBe('Whatever somebody typed')
})

test('English can be asked for in the middle of another language', () => {
  speak(FLAT)
  expect(inEnglish(() => say`Open`)).toBe('Open')
  expect(say`Open`).toBe('Öffnen')
  expect(() =>
    inEnglish(() => {
      throw new Error('what was asked failed')
    }),
  ).toThrow('what was asked failed')
  expect(say`Open`).toBe('Öffnen')
})

test('a language is chosen by what somebody reads, in their order; names keep their capitals where nouns have them', () => {
  expect(languageOf('de-AT,de;q=0.9,en;q=0.8')).toBe('de')
  expect(languageOf('fr-FR,en;q=0.8,de;q=0.5')).toBe('en')
  expect(languageOf('fr, nl')).toBe('en')
  expect(languageOf('')).toBe('en')
  expect(midSentence('Membrane')).toBe('membrane')
  speak(FLAT)
  expect(midSentence('Membran')).toBe('Membran')
})
