import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { inProgram } from '../../testing/screen'
import { PositionField, positionOf, positionProblem } from './position-field'

afterEach(cleanup)

test('a whole open location code is a position; a short one is not, for it needs a town', () => {
  // By hand: 8 is 6 · 20 − 90 = 30 and V 17 more, 47° north; F is 9 · 20 − 180 = 0 and C 8 more, 8° east; the rest is the first cell.
  const at = positionOf('8fvc2222+22')
  expect(at?.lat).toBeCloseTo(47, 3)
  expect(at?.lon).toBeCloseTo(8, 3)
  expect(positionOf('9QCJ+2V')).toBeNull()
  expect(positionProblem('9QCJ+2V')).toContain('latitude and longitude')
  expect(positionProblem('')).toBeUndefined()
})

function Shown() {
  const [text, setText] = useState('')
  return <PositionField label="Where it is" value={text} onChange={setText} />
}
/** A phone that says where it is, or why it does not. */
function phoneThat(answer: { lat: number; lon: number } | { refuses: number }): void {
  const getCurrentPosition = (good: (at: unknown) => void, bad: (why: unknown) => void): void =>
    'lat' in answer ? good({ coords: { latitude: answer.lat, longitude: answer.lon } }) : bad({ code: answer.refuses })
  Object.defineProperty(navigator, 'geolocation', { configurable: true, value: { getCurrentPosition } })
}

test('where the phone stands is filled in; a phone that may not say so says what to do', () => {
  render(<Shown />, { wrapper: inProgram })
  phoneThat({ lat: 58.31, lon: -21.62 })
  fireEvent.click(screen.getByRole('button', { name: 'Use where I am' }))
  expect(screen.getByLabelText('Where it is').getAttribute('value')).toBe('58.31000, -21.62000')
  phoneThat({ refuses: 1 })
  fireEvent.click(screen.getByRole('button', { name: 'Use where I am' }))
  expect(screen.getByRole('alert').textContent).toContain('allow it in the browser')
})
