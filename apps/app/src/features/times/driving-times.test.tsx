import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { ME, show } from '../../testing/screen'
import { DrivingTimes } from './driving-times'

afterEach(cleanup)

const NONE = {
  hosts: ['roads.example:5000'],
  address: null,
  version: 0,
  places: 0,
  known: 0,
  offRoad: 0,
  askedAt: null,
  answeredAt: null,
  nextAt: null,
  asking: false,
  problem: null,
}
const PACE = { drives: 0, fromMin: [], areas: [] }
const OWN = {
  ...NONE,
  address: 'http://roads.example:5000',
  version: 2,
  places: 30,
  known: 28,
  answeredAt: '2026-06-01T08:00:00.000Z',
  nextAt: '2026-06-01T09:00:00.000Z',
}

test('where none is allowed, it says who can allow one', async () => {
  show(<DrivingTimes />, { '/api/times/ways': { roadServer: { ...NONE, hosts: [] }, pace: PACE } })
  expect(await screen.findByText('None: drives are estimated')).toBeTruthy()
  expect(screen.queryByLabelText('Address of the routing server')).toBeNull()
})

test('an address is saved on the version that was seen; how far it has come is said', async () => {
  const { asked } = show(<DrivingTimes />, {
    '/api/times/ways': { roadServer: NONE, pace: PACE },
    'PUT /api/times/road-server': { roadServer: OWN, pace: PACE },
  })
  fireEvent.change(await screen.findByLabelText('Address of the routing server'), { target: { value: ' http://roads.example:5000 ' } })
  fireEvent.click(screen.getByRole('button', { name: 'Save the address' }))
  expect(await screen.findByText('Knows the ways of 28 of 30 places; the others are estimated.')).toBeTruthy()
  expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ address: 'http://roads.example:5000', version: 0 })
})

test('what is wrong with it, and that it is asked again, is said; it can be asked at once, and done without', async () => {
  const roadServer = { ...OWN, problem: 'Nothing answers at that address.' }
  const { asked } = show(<DrivingTimes />, {
    '/api/times/ways': { roadServer, pace: PACE },
    'POST /api/times/road-server/ask': { roadServer: { ...OWN, known: 30, offRoad: 1 }, pace: PACE },
    'PUT /api/times/road-server': { roadServer: NONE, pace: PACE },
  })
  expect((await screen.findByRole('alert')).textContent).toMatch(
    /^Nothing answers at that address\. What it said before stays in use\. It is asked again /,
  )
  fireEvent.click(await screen.findByRole('button', { name: 'Ask it now' }))
  expect(await screen.findByText('Knows the ways of all 30 places.')).toBeTruthy()
  expect(screen.getByText(/^1 place lies more than 2 km from any road/)).toBeTruthy()
  fireEvent.click(await screen.findByRole('button', { name: 'Do without it' }))
  await waitFor(() => expect(asked.find(({ method }) => method === 'PUT')?.body).toEqual({ address: null, version: 2 }))
})

test('what drives taught stands by area and hour, in per cent of the known way', async () => {
  const pace = { drives: 41, fromMin: [0, 420, 540], areas: [{ area: '', factors: [1, 1.25, 0.9] }] }
  show(<DrivingTimes />, { '/api/times/ways': { roadServer: NONE, pace } }, { ...ME, rights: ['read'] })
  expect(await screen.findByText(/^41 drives from the end of a visit/)).toBeTruthy()
  expect(screen.getByText('the mainland')).toBeTruthy()
  expect(screen.getByText('from 07:00').nextSibling?.textContent).toBe('+25 %')
  expect(screen.getByText('from 09:00').nextSibling?.textContent).toBe('−10 %')
  expect(screen.queryByLabelText('Address of the routing server')).toBeNull()
})
