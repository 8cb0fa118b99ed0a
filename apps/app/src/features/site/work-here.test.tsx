import type { StageDueDto } from '@evenround/contract/wear'
import { cleanup, fireEvent, screen, waitFor, within } from '@testing-library/react'
import { useKeptEdits } from '../../data/kept-edits'
import { openOutbox, useOutbox } from '../../data/outbox'
import { KEY, queryClient } from '../../data/queries'
import { until } from '../../testing/device'
import { dueWith } from '../../testing/due'
import { ME, show } from '../../testing/screen'
import { stopWith } from '../../testing/stop'
import { WorkHere } from './work-here'

afterEach(cleanup)

const TODAY_EMPTY = {
  day: '2026-11-25',
  timeZone: 'Atlantic/Azores',
  fromMin: 480,
  toMin: 960,
  homeMin: null,
  stops: [],
  late: { spent: 0, overdue: 0 },
  publication: null,
}
const WORKS = { ...ME, rights: ['record-facts'] }
const { system } = stopWith('under-sink-3', [])
/** The same system, its first stage in this state; the others are good. */
const firstIs = (state: StageDueDto['state']) => ({
  ...system,
  stages: system.stages.map((stage, index) => (index === 0 ? { ...stage, due: dueWith({ state }) } : stage)),
})
/** Shown on its site's page, as the device has it. */
function showHere(...args: Parameters<typeof show>) {
  const shown = show(...args)
  const { site } = stopWith('under-sink-3', [])
  queryClient.setQueryData(KEY.site(system.siteId), { site, systems: [system], holds: [], visits: [], histories: [] })
  return shown
}

const open = async () => {
  fireEvent.click(await screen.findByRole('button', { name: 'Work here today' }))
  return within(screen.getByRole('group', { name: 'What is done at Kitchen' }))
}
const ticked = (boxes: HTMLElement[]): boolean[] => boxes.map((box) => box.getAttribute('aria-checked') === 'true')

test.each(['spent', 'overdue'] as const)(
  'what is %s is ticked already; what is ticked is put on today with the usual act of its kind',
  async (state) => {
    const { asked } = showHere(<WorkHere system={firstIs(state)} />, { 'POST /api/stops': { ok: true } }, WORKS)
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
  },
)

test('nothing ticked is nothing to put on today', async () => {
  const { acts } = showHere(<WorkHere system={firstIs('any-day')} />, { 'POST /api/stops': { ok: true } }, WORKS)
  const choice = await open()
  expect(ticked(choice.getAllByRole('checkbox'))).toEqual([false, false, false])
  const put = choice.getByRole('button', { name: 'Put it on today' })
  expect(put.getAttribute('aria-disabled')).toBe('true')
  fireEvent.click(put)
  expect(acts()).toEqual([])
})

test('what the server refuses is said, and the ticks stay', async () => {
  const message = 'This system has a stop today already.'
  showHere(<WorkHere system={firstIs('spent')} />, { 'POST /api/stops': { error: { code: 'CONFLICT', message, retryable: false } } }, WORKS)
  const choice = await open()
  fireEvent.click(choice.getByRole('button', { name: 'Put it on today' }))
  expect((await screen.findByRole('alert')).textContent).toBe(message)
  expect(ticked(choice.getAllByRole('checkbox'))).toEqual([true, false, false])
})

test('without the right to record it offers the plumbing alone', async () => {
  show(<WorkHere system={system} />, {}, { ...ME, rights: [] })
  expect(await screen.findByRole('button', { name: 'Plumbing' })).toBeTruthy()
  expect(screen.queryByRole('button', { name: 'Work here today' })).toBeNull()
})

test('without a connection the stop is kept on the device, stands on today at once, and says when it was made', async () => {
  await openOutbox('firm/work-here')
  await until(() => useOutbox.getState().loaded)
  showHere(<WorkHere system={firstIs('spent')} />, {}, WORKS)
  queryClient.setQueryData(KEY.today, { ...TODAY_EMPTY })
  const choice = await open()
  fireEvent.click(choice.getByRole('button', { name: 'Put it on today' }))
  await waitFor(() => expect(useKeptEdits.getState().edits).toHaveLength(1))
  const [kept] = useKeptEdits.getState().edits
  const body = kept?.body as { id: string; at: string }
  expect(kept).toMatchObject({ path: '/api/stops', what: 'Stop at Net loft cottage', body: { systemId: 'system' } })
  expect(Date.parse(body.at)).toBeLessThanOrEqual(Date.now())
  expect(queryClient.getQueryData(KEY.stop(body.id))).toMatchObject({ stop: { tasks: [{ stageId: 'stage-1', action: 'change' }] } })
  expect(queryClient.getQueryData(KEY.today)).toMatchObject({ stops: [{ id: body.id }] })
})
