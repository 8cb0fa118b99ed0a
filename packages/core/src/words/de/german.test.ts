import { INTAKE_FIELDS, INTAKE_LABELS, matchColumns } from '../../intake'
import { notKnown, readDay, readKind, readMonth, readOutlets, readPump, readSource, readYes } from '../../intake/cells'
import { FAMILIES, familyTrain, type SheetResult, sheet } from '../../train'
import { protection } from '../../train/protect'
import { speakBy } from '..'
import { cautionPairs } from '../cautions'
import { GERMAN } from '.'

const speakGerman = (): void => speakBy(() => ({ catalogue: GERMAN, cautionsSignedOff: true }))
afterEach(() => speakBy(() => null))

/** What a sheet has people do, without a word of how it is said. */
const bones = (made: SheetResult) =>
  made.ok
    ? {
        visits: made.visits.map(({ steps, minGapHoursBefore }) => ({
          minGapHoursBefore,
          steps: steps.map(({ key, verb, at, to, minutes, litres, hours }) => ({ key, verb, at, to, minutes, litres, hours })),
        })),
        holds: made.holds.map(({ kind, hours }) => ({ kind, hours })),
      }
    : { refused: true }
const words = (made: SheetResult): string[] =>
  made.ok ? made.visits.flatMap(({ steps }) => steps.flatMap(({ text, why, caution = '' }) => [text, why, caution])).filter(Boolean) : []

test.each(Object.entries(FAMILIES))('%s: the language changes the words of a run sheet and nothing else', (_, family) => {
  const ids = family.stages.map((_, index) => `s${index + 1}`)
  const train = familyTrain(family, ids)
  const schools = { closing: 'hand-and-quarter-turn', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' } as const
  const make = (): SheetResult => sheet({ train, tasks: ids.map((stage) => ({ stage, action: 'change' })), schools })
  const english = make()
  speakGerman()
  const german = make()
  expect(bones(german)).toEqual(bones(english))
  const [own, theirs] = [words(german), words(english)]
  expect(own).toHaveLength(theirs.length)
  // No sentence is left in English, and no place is left unfilled but those for figures.
  expect(own.filter((text, index) => text === theirs[index])).toEqual([])
  expect(own.filter((text) => /\{\d+\}/.test(text))).toEqual([])
})

const ON_ITS_OWN = [false, true].flatMap((own) => Object.entries(FAMILIES).map(([name, family]) => [name, own, family] as const))
test.each(ON_ITS_OWN)('%s disinfected, by itself: %p: the same steps, cautions and findings in both languages', (_, own, family) => {
  const train = familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
  const schools = { closing: 'hand-and-quarter-turn', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' } as const
  const made = () => {
    const { before, during, after, findings, cannot } = protection(train, { schools, heater: 'bypass', own, contactHours: 12 })
    return {
      steps: [before, during, after].map((steps) => steps.map(({ key, verb, at, caution }) => [key, verb, at, caution !== undefined])),
      findings: findings.map(({ rule }) => rule),
      cannot: cannot.length,
    }
  }
  const english = made()
  speakGerman()
  expect(made()).toEqual(english)
})

test('headings of a list are understood in English and in German', () => {
  const english = INTAKE_FIELDS.map((field) => INTAKE_LABELS[field])
  speakGerman()
  const german = INTAKE_FIELDS.map((field) => INTAKE_LABELS[field])
  expect(german).not.toEqual(english)
  expect(matchColumns(english)).toEqual(INTAKE_FIELDS)
  expect(matchColumns(german)).toEqual(INTAKE_FIELDS)
})

test('what stands in a list’s cells is understood in both languages', () => {
  const read = () => [
    readSource('mains'),
    readKind('home'),
    readOutlets('drinking tap, ice maker'),
    readPump('booster'),
    readYes('yes'),
    readYes('no'),
    readMonth('May'),
    readDay('6 March 2025', 'day-first'),
  ]
  const english = read()
  expect(english.every(({ ok }) => ok)).toBe(true)
  speakGerman()
  expect(read()).toEqual(english)
  expect([
    readSource('Stadtwasser'),
    readKind('Wohnhaus'),
    readOutlets('Trinkwasserhahn, Eisbereiter'),
    readPump('Druckerhöhung'),
    readYes('ja'),
    readYes('Nein'),
    readMonth('Mai'),
    readDay('6. März 2025', 'day-first'),
  ]).toEqual(english)
  expect(notKnown('unbekannt')).toBe(true)
})

test('every caution is there to be read beside its English', () => {
  const pairs = cautionPairs(GERMAN)
  expect(pairs.length).toBeGreaterThan(50)
  expect(pairs.filter(({ english, own }) => own === english || own === '')).toEqual([])
})
