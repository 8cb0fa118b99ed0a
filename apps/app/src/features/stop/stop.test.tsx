import type { StopDto } from '@evenround/contract/site'
import { cleanup, screen } from '@testing-library/react'
import { show } from '../../testing/screen'
import { stopWith } from '../../testing/stop'
import { StopScreen } from './stop'

afterEach(cleanup)

const shown = (stop: StopDto) => show(<StopScreen id="stop" />, { '/api/stops/stop': { stop } })
const title = (): Promise<HTMLElement> => screen.findByRole('heading', { level: 1, name: 'Net loft cottage' })

test('before it begins: where and when, how to get in, what is due and what to bring', async () => {
  const stop = stopWith('under-sink-3', [1, 2])
  shown({ ...stop, site: { ...stop.site, access: 'Key under the net', contact: 'Mrs Loft', phone: 'Skellan 12' } })
  await title()
  expect(screen.getByText('Quay, Thrawn · planned 08:19, 80 min')).toBeTruthy()
  expect(screen.getByText('Key under the net')).toBeTruthy()
  expect(screen.getByText('Mrs Loft')).toBeTruthy()
  expect(screen.getByRole('link', { name: 'Skellan 12' }).getAttribute('href')).toBe('tel:12')
  // What is changed says what to bring; what stays does not.
  expect(screen.getAllByText(/· bring P-/).map(({ textContent }) => textContent?.split('· ').at(-1))).toEqual(['bring P-1', 'bring P-2'])
  expect(screen.getByRole('button', { name: 'Start: measure first' })).toBeTruthy()
})

test('a promise is said beside the hour; a door nobody knows says what to do about it', async () => {
  shown(stopWith('under-sink-3', [1], { promised: true }))
  await title()
  expect(screen.getByText(/80 min · promised$/)).toBeTruthy()
  expect(screen.getByText(/^Nothing is noted/)).toBeTruthy()
})

test('what was begun goes on; what is finished is looked at', async () => {
  shown(stopWith('under-sink-3', [1], { visit: { id: 'visit', finished: false } }))
  await title()
  expect(screen.getByRole('button', { name: 'Go on with the run sheet' })).toBeTruthy()
  expect(screen.getByRole('button', { name: 'Readings' })).toBeTruthy()
  cleanup()
  shown(stopWith('under-sink-3', [1], { visit: { id: 'visit', finished: true } }))
  await title()
  expect(screen.getByRole('button', { name: 'Look at what was done' })).toBeTruthy()
  expect(screen.queryByRole('button', { name: /^Start/ })).toBeNull()
})

test('a stage without a part, and one that nothing rates, say so', async () => {
  const stop = stopWith('under-sink-3', [])
  const none = { days: null, litres: null, milliequivalents: null, hours: null }
  const unrated = { partNumber: 'P-2', fittedOn: stop.day, dateKnown: true, rated: none }
  const stages = stop.system.stages.map((stage, index) =>
    index === 0 ? { ...stage, part: null } : index === 1 ? { ...stage, forecast: null, part: unrated } : stage,
  )
  shown({ ...stop, system: { ...stop.system, stages } })
  await title()
  expect(screen.getByText('Nobody knows what is fitted.')).toBeTruthy()
  expect(screen.getByText(/^Nothing rates its life\.$/)).toBeTruthy()
})

test('a stop that the device does not have says so, and offers to try again', async () => {
  show(<StopScreen id="stop" />, {
    '/api/stops/stop': { error: { code: 'NOT_FOUND', message: 'There is no such stop here.', retryable: false } },
  })
  expect(await screen.findByText('This stop cannot be shown', {}, { timeout: 60_000 })).toBeTruthy()
  expect(screen.getByText('There is no such stop here.')).toBeTruthy()
})
