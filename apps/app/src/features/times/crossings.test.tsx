import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { ME, show } from '../../testing/screen'
import { Crossings, crossingOf } from './crossings'

afterEach(cleanup)

const TYPED = {
  kind: 'ferry' as const,
  name: 'Holm ferry',
  fromArea: '',
  from: '50.01, 0',
  toArea: 'Holm',
  to: '50.19, 0',
  minutes: '20',
  board: '5',
  departures: '9:00, 11.00',
  returns: '10:00; 15:00',
  open: '',
  seasons: '',
  tides: '',
}
const FERRY = {
  kind: 'ferry',
  name: 'Holm ferry',
  from: { area: '', lat: 50.01, lon: 0 },
  to: { area: 'Holm', lat: 50.19, lon: 0 },
  minutes: 20,
  boardMin: 5,
  departures: [540, 660],
  returns: [600, 900],
  open: [],
  seasons: [],
}

test('times and spans as people write them', () => {
  expect(crossingOf(TYPED)).toEqual({ crossing: FERRY })
  const causeway = crossingOf({ ...TYPED, kind: 'causeway', open: '5:30–10:00, 12-15' })
  expect(causeway).toMatchObject({
    crossing: {
      departures: [],
      open: [
        [330, 600],
        [720, 900],
      ],
    },
  })
})

test.each([
  ['departures', { departures: 'hourly' }],
  ['returns', { returns: '' }],
  ['toArea', { toArea: '' }],
  ['minutes', { minutes: '0' }],
  ['from', { from: 'the slip' }],
  ['open', { kind: 'causeway' as const, open: '10:00–9:00' }],
  ['seasons', { seasons: 'in winter' }],
  ['tides', { kind: 'causeway' as const, tides: 'tomorrow' }],
])('what is wrong stands at %s', (field, more) => {
  const read = crossingOf({ ...TYPED, ...more })
  expect('problems' in read ? Object.keys(read.problems) : []).toEqual([field])
})

test('a ferry that is there is said in words; its minutes are changed on its version', async () => {
  const { asked } = show(<Crossings />, {
    '/api/times/crossings': { crossings: [{ ...FERRY, id: 'f', version: 3 }] },
    'PUT /api/times/crossings/f': { crossings: [{ ...FERRY, minutes: 25, id: 'f', version: 4 }] },
  })
  expect(await screen.findByText('Ferry between the mainland and Holm, 20 min')).toBeTruthy()
  expect(screen.getByText('Out 09:00, 11:00 · back 10:00, 15:00')).toBeTruthy()
  fireEvent.click(screen.getByRole('button', { name: 'Change' }))
  fireEvent.change(screen.getByLabelText('Minutes across'), { target: { value: '25' } })
  fireEvent.click(screen.getByRole('button', { name: 'Save this crossing' }))
  expect(await screen.findByText('Ferry between the mainland and Holm, 25 min')).toBeTruthy()
  await waitFor(() => expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ ...FERRY, minutes: 25, version: 3 }))
})

test('winter sailings and safe times are kept with what they belong to, and said in words', async () => {
  const winter = { ...TYPED, seasons: '11-01–03-31: 10:00 / 14:00\n12-25–12-25: /' }
  expect(crossingOf(winter)).toMatchObject({
    crossing: { seasons: [{ from: '11-01', to: '03-31', departures: [600], returns: [840] }, { departures: [] }] },
  })
  const causeway = { ...TYPED, kind: 'causeway' as const, tides: '2026-12-01 08:00–12:00' }
  expect(crossingOf(causeway)).toMatchObject({ crossing: { tides: { '2026-12-01': [[480, 720]] } } })
  const [ferry, way] = [crossingOf(winter), crossingOf(causeway)].map((one) => ('crossing' in one ? one.crossing : null))
  show(<Crossings />, {
    '/api/times/crossings': {
      crossings: [
        { ...ferry, id: 'f', version: 1 },
        { ...way, id: 'c', version: 1 },
      ],
    },
  })
  expect(await screen.findByText('1 November to 31 March: out 10:00 · back 14:00')).toBeTruthy()
  expect(screen.getByText('25 December to 25 December: does not sail')).toBeTruthy()
  expect(screen.getByText(/^Safe times are known until 1 December 2026; a day without an entry counts as closed\./)).toBeTruthy()
})

test('who does not plan looks only', async () => {
  show(<Crossings />, { '/api/times/crossings': { crossings: [] } }, { ...ME, rights: [] })
  expect(await screen.findByText('None yet')).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Add a crossing' })).toBeNull()
})
