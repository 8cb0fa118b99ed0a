import type { SitePageDto } from '@evenround/contract/site'
import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { openOutbox, useOutbox } from '../../data/outbox'
import { KEY, queryClient } from '../../data/queries'
import { until } from '../../testing/device'
import { ME, show } from '../../testing/screen'
import { stopWith } from '../../testing/stop'
import { WriteParts } from './write-parts'

afterEach(cleanup)

const WORKS = { ...ME, rights: ['record-facts'] }
const { site, system } = stopWith('under-sink-3', [])
/** A site of whose first two stages nobody knows what is in them. */
const page = {
  site,
  systems: [{ ...system, stages: system.stages.map((stage, index) => (index < 2 ? { ...stage, part: null } : stage)) }],
  holds: [],
  visits: [],
  histories: [],
}
const opened = (rights = WORKS, shown: object = page) =>
  show(<WriteParts siteId={site.id} stopId={null} />, { [`/api/sites/${site.id}`]: shown }, rights)
const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } })
const write = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Write it down' }))
let person = 0
beforeEach(async () => {
  person += 1
  await openOutbox(`firm/write-parts${person}`)
  await until(() => useOutbox.getState().loaded)
})

test('what is read off the parts is kept as facts of their days and shown at once; what is left empty stays unknown', async () => {
  opened()
  await screen.findByRole('button', { name: 'Write it down' })
  expect(screen.queryByLabelText('Part number at 3')).toBeNull()
  type('Part number at 1', ' brk-sed-10 ')
  type('Fitted at 1', '2027-01-01')
  write()
  expect(await screen.findByText('A day that has been')).toBeTruthy()
  expect(useOutbox.getState().entries).toEqual([])
  type('Fitted at 1', '')
  write()
  await waitFor(() => expect(useOutbox.getState().entries).toHaveLength(1))
  expect(useOutbox.getState().entries[0]?.fact).toMatchObject({
    kind: 'part-fitted',
    siteId: site.id,
    stageId: system.stages[0]?.id,
    partNumber: 'brk-sed-10',
    position: 1,
    dateKnown: false,
  })
  const kept = queryClient.getQueryData<SitePageDto>(KEY.site(site.id))
  expect(kept?.systems[0]?.stages.map(({ part }) => part?.partNumber ?? null)).toEqual([
    'brk-sed-10',
    null,
    system.stages[2]?.part?.partNumber ?? null,
  ])
  expect(kept?.systems[0]?.stages[0]?.part?.dateKnown).toBe(false)
})

test('nothing typed is nothing written; where all is known there is nothing to write', async () => {
  opened()
  await screen.findByRole('button', { name: 'Write it down' })
  write()
  expect(await screen.findByText('Scan or type at least one part number.')).toBeTruthy()
  expect(useOutbox.getState().entries).toEqual([])
  cleanup()
  opened(WORKS, { ...page, systems: [system] })
  expect(await screen.findByText('All of it is known')).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Write it down' })).toBeNull()
})

test('whoever records nothing looks and writes nothing', async () => {
  opened({ ...ME, rights: ['read'] })
  await screen.findByLabelText('Part number at 1')
  expect(screen.queryByRole('button', { name: 'Write it down' })).toBeNull()
})
