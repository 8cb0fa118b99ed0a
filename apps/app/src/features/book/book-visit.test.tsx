import type { VisitPageDto } from '@evenround/contract/book'
import { type Fact, NOTHING_READ } from '@evenround/core/visit'
import { cleanup, fireEvent, screen, within } from '@testing-library/react'
import { record } from '../../data/outbox'
import { base, reading, TICK } from '../../testing/facts'
import { ME, show } from '../../testing/screen'
import { stopWith } from '../../testing/stop'
import { BookVisit } from './book-visit'

// What is written down goes to the outbox; its own tests see it through.
jest.mock('../../data/outbox', () => ({ ...jest.requireActual('../../data/outbox'), record: jest.fn(async () => []) }))
afterEach(cleanup)

const { system } = stopWith('under-sink-3', [])
const NOTHING_RATED = { days: null, litres: null, milliequivalents: null, hours: null }
const removed = (id: string, more: object = {}): Fact => ({
  ...base(id),
  kind: 'part-removed',
  stageId: 'stage-1',
  found: 'spent',
  dirtPast: true,
  ...more,
})
const FACTS: Fact[] = [
  { ...reading(410), ...base('untreated'), systemId: 'system' },
  { ...TICK, ...base('tick') },
  removed('wrong'),
  removed('right', { seq: 2, found: 'heavy', supersedes: 'wrong' }),
  {
    ...base('fitted'),
    kind: 'part-fitted',
    stageId: 'stage-1',
    partId: null,
    partNumber: 'BRK-SED-10',
    position: 1,
    markText: '1 · BRK-SED-10 · 25 Nov 2026 · Tam',
    dateKnown: true,
    rated: NOTHING_RATED,
  },
  { ...base('hold'), kind: 'hold-begun', holdKind: 'low-flow', until: '2026-11-26T00:30:00.000Z', text: 'Low flow only.' },
  {
    ...base('end'),
    kind: 'visit-finished',
    outcome: 'done',
    monitorReset: null,
    customerTold: true,
    note: 'Valve is stiff',
    leftStanding: [],
    notRight: [],
  },
]
const page = (facts: Fact[], more: Partial<VisitPageDto> = {}): VisitPageDto => ({
  visit: {
    visitId: 'visit',
    siteId: 'site',
    siteName: 'Net loft cottage',
    systemName: 'Kitchen',
    personName: 'Tam Orrin',
    begunAt: '2026-11-25T09:10:00.000Z',
    finishedAt: '2026-11-25T10:00:00.000Z',
    outcome: 'done',
    fitted: ['BRK-SED-10'],
  },
  system,
  facts: facts.map((fact) => ({ fact, personId: 'tam', arrivedAt: fact.at, flags: [] })),
  photos: [],
  site: null,
  followUp: null,
  ...more,
})
const shown = (answer: VisitPageDto) => show(<BookVisit id="visit" />, { '/api/visits/visit': answer })

test('a visit as it was recorded: readings, parts with what came out, holds, the end', async () => {
  shown(page(FACTS))
  await screen.findByRole('heading', { level: 1, name: 'Net loft cottage' })
  expect(screen.getByText('1 · Sediment · BRK-SED-10')).toBeTruthy()
  expect(screen.getByText('Taken out: heavy, dirt had got past it')).toBeTruthy()
  expect(screen.getByText('on the part: 1 · BRK-SED-10 · 25 Nov 2026 · Tam')).toBeTruthy()
  expect(screen.getByRole('table', { name: 'Readings in mg/L' }).textContent).toContain('Before410–')
  // Half past midnight in UTC is the evening before on the islands.
  expect(await screen.findByText(/^Hold: .*Low flow only\. Until .*25 Nov.*23:30/)).toBeTruthy()
  expect(screen.getByText(/^1 steps? ticked · monitor none · customer told\. Note: Valve is stiff/)).toBeTruthy()
})

test('what was corrected stays to be seen, apart from what counts', async () => {
  shown(page(FACTS))
  expect(await screen.findByText(/^found spent \(/)).toBeTruthy()
  expect(screen.queryByText(/^found heavy/)).toBeNull()
})

test('a visit without parts, not finished, says both', async () => {
  const open = page([{ ...reading(410), ...base('untreated'), systemId: 'system' }])
  shown({ ...open, visit: open.visit && { ...open.visit, outcome: null, finishedAt: null } })
  expect(await screen.findByText('No part was fitted.')).toBeTruthy()
  expect(screen.getByText(/· not finished$/)).toBeTruthy()
  expect(screen.queryByText('Corrected or withdrawn')).toBeNull()
})

test('a visit that is still on a device is not in the book yet', async () => {
  shown(page([], { visit: null, system: null }))
  expect(await screen.findByText('Not in the book yet')).toBeTruthy()
})

describe('corrections after the finish', () => {
  const facts = FACTS.filter(({ id }) => id !== 'tick')
  const TECHNICIAN = { ...ME, person: { ...ME.person, id: 'tam', role: 'technician' }, rights: ['read', 'record-facts'] }
  const recorded = () => jest.mocked(record).mock.calls.flat()
  const open = async (me: object): Promise<void> => {
    show(<BookVisit id="visit" />, { '/api/visits/visit': page(facts) }, me)
    fireEvent.click(await screen.findByRole('button', { name: 'Correct this visit' }))
  }
  beforeEach(() => jest.mocked(record).mockClear())

  test('a reading said wrongly is said anew, at its own instant; a finding and the ending likewise', async () => {
    await open(TECHNICIAN)
    const reading = within(screen.getByRole('group', { name: 'Untreated, before the work' }))
    const keep = () => reading.getByRole('button', { name: 'Record the correction' })
    expect(keep().getAttribute('aria-disabled')).toBe('true')
    fireEvent.change(reading.getByLabelText('The meter showed'), { target: { value: '41' } })
    fireEvent.click(keep())
    const untreated = facts.find(({ id }) => id === 'untreated')
    expect(recorded()).toEqual([expect.objectContaining({ kind: 'tds-reading', display: 41, supersedes: 'untreated', at: untreated?.at })])
    const end = within(screen.getByRole('group', { name: 'How it ended' }))
    fireEvent.click(end.getByRole('radio', { name: 'Partly done' }))
    fireEvent.click(end.getByRole('button', { name: 'Record the correction' }))
    expect(recorded().at(-1)).toMatchObject({ kind: 'visit-finished', outcome: 'partly-done', supersedes: 'end' })
  })

  test('salt and hardness that were written down wrongly are said anew', async () => {
    const salt: Fact = {
      ...base('salt'),
      kind: 'stage-reading',
      systemId: 'system',
      stageId: 'stage-1',
      phase: 'after',
      ...NOTHING_READ,
      saltKg: 80,
      hardnessOutMgL: 12,
    }
    show(<BookVisit id="visit" />, { '/api/visits/visit': page([...facts, salt]) }, TECHNICIAN)
    fireEvent.click(await screen.findByRole('button', { name: 'Correct this visit' }))
    const form = within(screen.getByRole('group', { name: '1 · Sediment, after the work' }))
    fireEvent.change(form.getByLabelText('Salt filled in'), { target: { value: '8' } })
    fireEvent.click(form.getByRole('button', { name: 'Record the correction' }))
    expect(recorded()).toEqual([expect.objectContaining({ kind: 'stage-reading', saltKg: 8, hardnessOutMgL: 12, supersedes: 'salt' })])
  })

  test('what never was is taken back', async () => {
    await open(TECHNICIAN)
    const part = within(screen.getByRole('group', { name: '1 · Sediment: what went in' }))
    fireEvent.click(part.getByRole('button', { name: 'It never happened: withdraw it' }))
    expect(recorded()).toEqual([expect.objectContaining({ kind: 'part-fitted', supersedes: 'fitted', voided: true })])
  })

  test('who only reads, or did not do it, is offered nothing that the server would refuse', async () => {
    for (const me of [
      { ...TECHNICIAN, rights: ['read'] },
      { ...TECHNICIAN, person: { ...TECHNICIAN.person, id: 'wren' } },
    ]) {
      show(<BookVisit id="visit" />, { '/api/visits/visit': page(facts) }, me)
      await screen.findByText('1 · Sediment · BRK-SED-10')
      expect(screen.queryByRole('button', { name: 'Correct this visit' })).toBeNull()
      cleanup()
    }
  })
})
