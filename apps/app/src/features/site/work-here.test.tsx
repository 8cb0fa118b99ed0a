import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { ME, show } from '../../testing/screen'
import { stopWith, TODAY } from '../../testing/stop'
import { WorkHere } from './work-here'

afterEach(cleanup)

const WORKS = { ...ME, rights: ['record-facts'] }
const { system } = stopWith('under-sink-3', [])
/** The first stage is over by its median; the others are not. */
const overAt = (p50: string) => ({
  ...system,
  stages: system.stages.map((stage, index) => (index === 0 && stage.forecast ? { ...stage, forecast: { ...stage.forecast, p50 } } : stage)),
})
const open = async () => {
  fireEvent.click(await screen.findByRole('button', { name: 'Work here today' }))
  return within(screen.getByRole('group', { name: 'What is done at Kitchen' }))
}
const ticked = (boxes: HTMLElement[]): boolean[] => boxes.map((box) => box.getAttribute('aria-checked') === 'true')

test('what is due is ticked already; what is ticked is put on today with the usual act of its kind', async () => {
  const { asked } = show(<WorkHere system={overAt('2026-11-20')} today={TODAY} />, { 'POST /api/stops': { ok: true } }, WORKS)
  const choice = await open()
  const boxes = choice.getAllByRole('checkbox')
  expect(ticked(boxes)).toEqual([true, false, false])
  fireEvent.click(boxes[2] as HTMLElement)
  fireEvent.click(choice.getByRole('button', { name: 'Put it on today' }))
  await waitFor(() => expect(asked.some(({ method }) => method === 'POST')).toBe(true))
  expect(asked.find(({ method }) => method === 'POST')?.body).toMatchObject({
    systemId: 'system',
    tasks: [
      { stageId: 'stage-1', action: 'change' },
      { stageId: 'stage-3', action: 'change' },
    ],
  })
})

test('nothing ticked is nothing to put on today', async () => {
  const { acts } = show(<WorkHere system={overAt('2027-01-18')} today={TODAY} />, { 'POST /api/stops': { ok: true } }, WORKS)
  const choice = await open()
  expect(ticked(choice.getAllByRole('checkbox'))).toEqual([false, false, false])
  const put = choice.getByRole('button', { name: 'Put it on today' })
  expect(put.getAttribute('aria-disabled')).toBe('true')
  fireEvent.click(put)
  expect(acts()).toEqual([])
})

test('what the server refuses is said, and the ticks stay', async () => {
  const message = 'This system has a stop today already.'
  show(
    <WorkHere system={overAt('2026-11-20')} today={TODAY} />,
    { 'POST /api/stops': { error: { code: 'CONFLICT', message, retryable: false } } },
    WORKS,
  )
  const choice = await open()
  fireEvent.click(choice.getByRole('button', { name: 'Put it on today' }))
  expect((await screen.findByRole('alert')).textContent).toBe(message)
  expect(ticked(choice.getAllByRole('checkbox'))).toEqual([true, false, false])
})

test('without the right to record it offers the plumbing alone', async () => {
  show(<WorkHere system={system} today={TODAY} />, {}, { ...ME, rights: [] })
  expect(await screen.findByRole('button', { name: 'Plumbing' })).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Work here today' })).toBeNull()
})
