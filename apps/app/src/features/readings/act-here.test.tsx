import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { stopWith } from '../../testing/stop'
import { ActHere, withActs } from './act-here'

afterEach(cleanup)

test('only a part that can be done in two ways is asked about; what is chosen is what the visit begins with', () => {
  const stop = stopWith('ultraviolet', [1, 3])
  const chosen: [string, string][] = []
  render(<ActHere stop={stop} onChoose={(stageId, action) => chosen.push([stageId, action])} />)
  expect(screen.getAllByRole('radiogroup')).toHaveLength(1)
  fireEvent.click(screen.getByRole('radio', { name: 'Change' }))
  expect(chosen).toEqual([['stage-3', 'change']])
  expect(withActs(stop, { 'stage-3': 'change' }).tasks.map(({ action }) => action)).toEqual(['change', 'change'])
})
