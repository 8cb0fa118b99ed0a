import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { FindingChoice } from '../parts/visit/finding'
import { Boundary } from './boundary'
import { Button } from './button'
import { Choice, Tick } from './choice'
import { Field } from './field'
import { Failed } from './states'
import { lookOf } from './text'
import { Vessel } from './vessel'

afterEach(cleanup)

test('a button acts, a disabled one does not', () => {
  const act = jest.fn()
  const { rerender } = render(<Button label="Done" onPress={act} />)
  fireEvent.click(screen.getByText('Done'))
  expect(act).toHaveBeenCalledTimes(1)
  rerender(<Button label="Done" disabled onPress={act} />)
  fireEvent.click(screen.getByText('Done'))
  expect(act).toHaveBeenCalledTimes(1)
})

test('a field’s problem stands under it and replaces the hint', () => {
  render(<Field label="People" value="x" onChangeText={jest.fn()} hint="At least 1" error="A whole number" />)
  expect(screen.getByText('A whole number')).toBeTruthy()
  expect(screen.queryByText('At least 1')).toBeNull()
})

test('a colour of its own takes the place of the usual one; a size or a side does not', () => {
  const colours = (own: string): string[] => lookOf('small', own).match(/text-(ink|quiet|oxblood)/g) ?? []
  expect([colours('text-oxblood'), colours('w-6 text-ink'), colours('text-right text-[12px]'), colours('')]).toEqual([
    ['text-oxblood'],
    ['text-ink'],
    ['text-quiet'],
    ['text-quiet'],
  ])
})

test('choices and ticks hand on what was tapped', () => {
  const chosen = jest.fn()
  render(
    <Choice
      label="Seals"
      value="reuse"
      options={[
        { value: 'reuse', label: 'Reuse' },
        { value: 'new', label: 'New' },
      ]}
      onChange={chosen}
    />,
  )
  fireEvent.click(screen.getByText('New'))
  expect(chosen).toHaveBeenCalledWith('new')
  const ticked = jest.fn()
  render(<Tick label="Told" value={false} onChange={ticked} />)
  fireEvent.click(screen.getByText('Told'))
  expect(ticked).toHaveBeenCalledWith(true)
})

test('a finding asks about dirt only where it could have gone on', () => {
  const change = jest.fn()
  const { rerender } = render(<FindingChoice finding={{ found: null, dirtPast: null }} onChange={change} asksDirt />)
  fireEvent.click(screen.getByText('heavy'))
  expect(change).toHaveBeenCalledWith({ found: 'heavy', dirtPast: null })
  expect(screen.getByText('Dirt got past')).toBeTruthy()
  rerender(<FindingChoice finding={{ found: null, dirtPast: null }} onChange={change} asksDirt={false} />)
  expect(screen.queryByText('Dirt got past')).toBeNull()
})

test('a vessel says in words what it draws', () => {
  render(<Vessel level={0.2} cause="calendar" label="1 Sediment: 20 % left, calendar decides" />)
  expect(screen.getByLabelText('1 Sediment: 20 % left, calendar decides')).toBeTruthy()
})

test('what failed is said with its reason and a way on', () => {
  const again = jest.fn()
  render(<Failed what="Today cannot be shown" error={new Error('No connection.')} onRetry={again} />)
  expect(screen.getByText('No connection.')).toBeTruthy()
  fireEvent.click(screen.getByText('Try again'))
  expect(again).toHaveBeenCalled()
})

test('a screen that breaks says what is safe and what to do; the rest stands', () => {
  const quiet = jest.spyOn(console, 'error').mockImplementation(() => undefined)
  const Broken = (): never => {
    throw new Error('no such column')
  }
  render(
    <Boundary what="This screen cannot be shown">
      <Broken />
    </Boundary>,
  )
  expect(screen.getByText('This screen cannot be shown')).toBeTruthy()
  expect(screen.getByText(/What you recorded is safe on this device.*no such column/)).toBeTruthy()
  expect(screen.getByText('Try again')).toBeTruthy()
  quiet.mockRestore()
})
