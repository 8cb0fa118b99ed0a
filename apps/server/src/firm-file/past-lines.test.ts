import { speakBy } from '@evenround/core/words'
import { GERMAN } from '@evenround/core/words/de'
import { factLine, type Row, TOLD_KINDS } from './past-lines'

afterEach(() => speakBy(() => null))

const ONCE = { supersedes: null, voided: false }
/** A row of each kind, and the line that stands for it. */
const ROWS: Record<(typeof TOLD_KINDS)[number], [row: Row, line: string]> = {
  'visit-begun': [{ person: 'Tam Orrin' }, 'Visit begun, by Tam Orrin'],
  'tds-reading': [{ phase: 'before', water: 'treated', tds_mg_l: 63 }, 'TDS before the work, treated: 63 mg/L'],
  'stage-reading': [{ phase: 'after', in_kpa: 310, out_kpa: null }, 'Reading after the work: pressure before it 310 kPa'],
  'part-removed': [{ found: 'heavy', dirt_past: true }, 'Part taken out, heavily used, dirt had got past it'],
  'part-fitted': [
    { position: 2, part_number: 'BRK-CB-10', date_known: false, mark_text: '' },
    'Part fitted at 2: BRK-CB-10, first seen; nobody knows since when',
  ],
  'hold-begun': [{ text: 'Boil it.' }, 'Hold: Boil it.'],
  'hold-lifted': [{ proof: 'Report 7' }, 'Hold lifted: Report 7'],
  'hold-told': [{ how: 'telephone', whom: 'Mina Tolquhar' }, 'Told of the hold, by telephone: Mina Tolquhar'],
  'visit-finished': [{ outcome: 'partly-done', customer_told: true, note: '' }, 'Visit ended, partly done. The customer was told.'],
  'fault-noted': [{ what: 'weeping-valve', text: 'Behind a sink.' }, 'Fault, weeping valve. Behind a sink.'],
  'fault-settled': [{ how: 'declined', note: null }, 'Fault settled, declined by the customer.'],
  'chlorine-dosed': [{ amount: 404, unit: 'mL' }, 'Chlorine dosed: 404 mL'],
  'step-surprise': [{ surprise: 'will-not-close' }, 'Found otherwise: a shut-off will not close'],
  'work-changed': [{ action: null, why: 'no part' }, 'Left for another day. no part'],
  'site-mended': [{ field: 'phone', value: 'Skellan 114' }, 'The site’s page mended, telephone: Skellan 114'],
  'job-planned': [{}, 'Disinfection planned'],
  'sample-taken': [
    { place: 'kitchen', bottle: 'B7', laboratory: 'Sound', chlorine_mg_l: 0.1 },
    'Sample taken at kitchen, bottle B7, for Sound; free chlorine 0.1 mg/L',
  ],
  'job-day-ended': [{ job_day: 'flush', outcome: 'done', note: '' }, 'Day of the flush ended, done.'],
  'strip-read': [{ place: 'jug', purpose: 'contact', mg_l: null }, 'Strip at the jug, while it stands: by smell'],
  'sample-result': [
    { report_number: '12', day: '2026-11-20', total_coliform: 'present', e_coli: 'absent' },
    'Laboratory’s report 12 of 2026-11-20: total coliforms present, E. coli absent',
  ],
}

test.each(TOLD_KINDS)('%s is a line a person reads, in both languages', (kind) => {
  const [row, line] = ROWS[kind]
  expect(factLine(kind, { ...ONCE, ...row })).toBe(line)
  expect(factLine(kind, { ...ONCE, ...row, voided: true })).toBe(`${line} [taken back]`)
  speakBy(() => ({ catalogue: GERMAN, cautionsSignedOff: true }))
  const german = factLine(kind, { ...ONCE, ...row })
  expect(german).not.toBe(line)
  expect(german).not.toMatch(/\{\d\}|\b(the|and|by|with|before|after)\b/)
})

test('what nobody named is read as it stands', () => {
  expect(factLine('strip-read', { ...ONCE, place: 'kitchen-tap', purpose: 'flush', mg_l: 0.2 })).toBe(
    'Strip at kitchen tap, while it is flushed: 0.2 mg/L free chlorine',
  )
})
