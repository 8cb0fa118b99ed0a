import type { StopPageDto } from '@evenround/contract/site'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { dueWith } from '../../testing/due'
import { inProgram } from '../../testing/screen'
import { stopWith } from '../../testing/stop'
import { SpentHere, withAdded } from './spent-here'

afterEach(cleanup)

const stop = stopWith('under-sink-3', [1])
const page: StopPageDto = { stop, history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null }, wear: [], counter: null }
const judged = (position: number, state: 'spent' | 'good') => {
  const stage = stop.system.stages.find((one) => one.position === position)
  if (!stage) throw new Error('no stage')
  return { stage, due: dueWith({ state, ended: 0.9, labelDay: '2026-10-01' }), governing: 'throughput' as const }
}

test('what is spent and not in today’s work is offered before the visit begins; what is planned or good is not', () => {
  const added: string[][] = []
  render(
    <SpentHere
      page={page}
      dues={[judged(1, 'spent'), judged(2, 'spent'), judged(3, 'good')]}
      mayAdd
      added={[]}
      onAdd={(ids) => added.push([...ids])}
    />,
    { wrapper: inProgram },
  )
  expect(screen.getByText(/^2 Carbon: Spent, very likely \(90 in 100\)\. Change it now/)).toBeTruthy()
  expect(screen.queryByText(/^1 Sediment/)).toBeNull()
  expect(screen.queryByText(/^3 /)).toBeNull()
  fireEvent.click(screen.getByRole('checkbox', { name: /^Add 2 carbon to today’s work/ }))
  expect(added).toEqual([['stage-2']])
})

test('what was added begins with the visit, in the order of the water; what stood there already stands there once', () => {
  expect(withAdded(stopWith('under-sink-3', [3]), ['stage-1', 'stage-3']).tasks).toEqual([
    { stageId: 'stage-1', action: 'change' },
    { stageId: 'stage-3', action: 'change' },
  ])
  expect(withAdded(stop, ['gone']).tasks).toEqual(stop.tasks)
})

test('once the visit has begun it is taken into the work of now; without anything spent it says nothing', () => {
  const take = jest.fn()
  const begun = { page, mayAdd: false, added: [], onAdd: () => undefined, onTake: take }
  const { rerender } = render(<SpentHere {...begun} work={['stage-1']} dues={[judged(2, 'spent')]} />, { wrapper: inProgram })
  expect(screen.queryByRole('checkbox')).toBeNull()
  fireEvent.click(screen.getByRole('button', { name: 'Take 2 carbon into today’s work' }))
  expect(take).toHaveBeenCalledWith('stage-2', 'change')
  rerender(<SpentHere {...begun} work={['stage-1', 'stage-2']} dues={[judged(2, 'spent')]} />)
  expect(screen.queryByRole('status')).toBeNull()
  rerender(<SpentHere page={page} dues={[judged(2, 'good')]} mayAdd={false} added={[]} onAdd={() => undefined} />)
  expect(screen.queryByRole('status')).toBeNull()
})
