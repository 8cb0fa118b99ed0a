import { cleanup, fireEvent, screen } from '@testing-library/react'
import { record } from '../../data/outbox'
import { ME, show } from '../../testing/screen'
import { stopWith } from '../../testing/stop'
import { GettingIn } from './getting-in'
import { NoteFault } from './note-fault'

jest.mock('../../data/outbox', () => ({ ...jest.requireActual('../../data/outbox'), record: jest.fn(async () => []) }))
afterEach(cleanup)
beforeEach(() => jest.mocked(record).mockClear())

const { site, system } = stopWith('under-sink-3', [1])
const VIEWER = { ...ME, rights: ['read'] }

test('what is wrong at the door is corrected there, and only what was changed is written down', async () => {
  show(<GettingIn site={site} />, {})
  fireEvent.click(await screen.findByRole('button', { name: 'Correct what is wrong here' }))
  fireEvent.change(screen.getByLabelText('Telephone'), { target: { value: ' Skellan 99 ' } })
  fireEvent.click(screen.getByRole('button', { name: 'Save' }))
  expect(record).toHaveBeenCalledWith(
    expect.objectContaining({ kind: 'site-mended', siteId: site.id, field: 'phone', value: 'Skellan 99' }),
  )
  expect(jest.mocked(record).mock.calls.flat()).toHaveLength(1)
})

test('a fault for later says what and where; something else wants words', async () => {
  show(<NoteFault system={system} siteId={site.id} visitId="visit" />, {})
  fireEvent.click(await screen.findByRole('button', { name: 'Note a fault for later' }))
  const note = () => screen.getByRole('button', { name: 'Note it' })
  fireEvent.click(screen.getByRole('radio', { name: 'Something else' }))
  expect(note().getAttribute('aria-disabled')).toBe('true')
  fireEvent.click(screen.getByRole('radio', { name: 'Valve weeps' }))
  fireEvent.change(screen.getByLabelText('In your words'), { target: { value: 'the feed valve' } })
  fireEvent.click(note())
  expect(record).toHaveBeenCalledWith(
    expect.objectContaining({
      kind: 'fault-noted',
      visitId: 'visit',
      systemId: system.id,
      stageId: null,
      what: 'weeping-valve',
      text: 'the feed valve',
    }),
  )
  expect(await screen.findByText(/^1 fault noted: it stands on the site as work to offer/)).toBeTruthy()
})

test('who only reads is offered neither', async () => {
  show(
    <>
      <GettingIn site={site} />
      <NoteFault system={system} siteId={site.id} visitId={null} />
    </>,
    {},
    VIEWER,
  )
  await screen.findByText('Access')
  expect(screen.queryByRole('button')).toBeNull()
})
