import { FAMILIES } from '@evenround/core/train'
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { useKeptEdits } from '../../data/kept-edits'
import { openOutbox, useOutbox } from '../../data/outbox'
import { until } from '../../testing/device'
import { ME, show } from '../../testing/screen'
import { GROUPS, NewSite } from './new-site'

afterEach(cleanup)

const NEAR = {
  id: 'loft',
  name: 'Net loft cottage',
  village: 'Quay',
  island: '',
  lat: 58.31,
  lon: -21.62,
  systems: 1,
  nextDue: null,
  spent: 0,
  overdue: 0,
  hold: null,
}
const WORKS = { ...ME, rights: [...ME.rights, 'add-sites'] }
const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } })
const add = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Add this site' }))
let person = 0
beforeEach(async () => {
  person += 1
  await openOutbox(`firm/new-site${person}`)
  await until(() => useOutbox.getState().loaded)
})

test('a name and the system are required; everything else may be added later', async () => {
  show(<NewSite />, { '/api/sites': { sites: [] } }, WORKS)
  add()
  expect(await screen.findByText('Name is required')).toBeTruthy()
  expect(screen.getByText(/^Choose what comes nearest/)).toBeTruthy()
  expect(useKeptEdits.getState().edits).toEqual([])
})

test('kept on the device with its plumbing; a part that is known is a fact of its day, the others nobody knows', async () => {
  show(<NewSite />, { '/api/sites': { sites: [] } }, WORKS)
  type('Name', 'Smokehouse')
  type('Where it is', '58.31, -21.62')
  fireEvent.click(screen.getByRole('radio', { name: 'At the sink' }))
  fireEvent.click(screen.getByRole('radio', { name: FAMILIES['under-sink-2'].name }))
  type('Called', 'Cellar')
  const first = within(screen.getByRole('group', { name: /^1 · / }))
  fireEvent.change(first.getByLabelText('Part number at 1'), { target: { value: 'LT-SED-5' } })
  fireEvent.change(first.getByLabelText('Fitted at 1'), { target: { value: '2027-01-01' } })
  add()
  expect(await screen.findByText('A day that has been')).toBeTruthy()
  fireEvent.change(first.getByLabelText('Fitted at 1'), { target: { value: '2026-04-08' } })
  add()
  await waitFor(() => expect(useKeptEdits.getState().edits).toHaveLength(1))
  const body = useKeptEdits.getState().edits[0]?.body as Record<string, unknown> & {
    id: string
    systems: { name: string; train: { nodes: unknown[] } }[]
  }
  expect(body).toMatchObject({ name: 'Smokehouse', lat: 58.31, lon: -21.62, people: 2, systems: [{ name: 'Cellar' }] })
  await waitFor(() => expect(useOutbox.getState().entries).toHaveLength(1))
  expect(useOutbox.getState().entries[0]?.fact).toMatchObject({
    kind: 'part-fitted',
    siteId: body.id,
    partNumber: 'LT-SED-5',
    position: 1,
    dateKnown: true,
    at: new Date('2026-04-08T12:00:00').toISOString(),
  })
})

test('a neighbour that may be the same is offered', async () => {
  show(<NewSite />, { '/api/sites': { sites: [NEAR] } }, WORKS)
  type('Where it is', '58.31001, -21.62')
  expect(await screen.findByText('Net loft cottage: 1 m from here')).toBeTruthy()
  type('Where it is', '')
  type('Name', 'net loft cottage')
  expect(await screen.findByText('Net loft cottage: called the same')).toBeTruthy()
})

test('every usual system is two taps away, once', () => {
  expect(GROUPS.flatMap(({ families }) => families).sort()).toEqual(Object.keys(FAMILIES).sort())
})
