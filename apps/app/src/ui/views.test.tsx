import { playTrain } from '@evenround/core/train'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { judge, NOTHING_TYPED, USUAL_METER } from '../features/readings/judge'
import { NumberBox } from '../features/readings/number-box'
import { Cannot } from '../features/train/cannot'
import { PipeMap } from '../features/train/pipe-map'
import { TrainLine } from '../parts/wear/train-line'
import { stopWith, TODAY } from '../testing/stop'
import { DayLine } from './day-line'

afterEach(cleanup)

test('a train says in words what its vessels draw: what is left, what decides, what is due', () => {
  const { system } = stopWith('reverse-osmosis-5', [1])
  render(<TrainLine stages={system.stages} due={new Set(['stage-1'])} today={TODAY} />)
  expect(screen.getByLabelText('1 Sediment: 20 % left, calendar decides, due')).toBeTruthy()
  expect(screen.getByLabelText('4 Membrane: 20 % left, calendar decides')).toBeTruthy()
})

test('the day line is one picture with a sentence', () => {
  const stop = { id: 'a', leaveMin: 485, arriveMin: 499, workMin: 80, ferryAt: '08:10', promised: true, state: 'next' as const }
  render(<DayLine fromMin={480} toMin={960} homeMin={600} stops={[stop]} width={320} label="The day from 08:00: 08:19 Net loft" />)
  expect(screen.getByLabelText('The day from 08:00: 08:19 Net loft')).toBeTruthy()
  expect(screen.getByText('ferry 08:10')).toBeTruthy()
})

test('a number box shows the correction, the problem, and hands on its marks', () => {
  const typed = { ...NOTHING_TYPED, text: '41' }
  const one = (text: string, timesTen: boolean) =>
    judge(
      { untreated: { ...typed, text, timesTen }, treated: NOTHING_TYPED, temperature: '' },
      USUAL_METER,
      stopWith('under-sink-3', [1]),
      { untreatedMgL: [], treatedMgL: [], baselinePassage: null },
      { change: 'earliest', membrane: 'fixed-floor', closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' },
      TODAY,
      '.',
    ).untreated
  const change = jest.fn()
  const { rerender } = render(<NumberBox label="Untreated" typed={typed} meter={USUAL_METER} reading={one('41', true)} onChange={change} />)
  expect(screen.getByText('= 410 mg/L at 25 °C')).toBeTruthy()
  fireEvent.click(screen.getByRole('switch', { name: '×10 mark, untreated' }))
  expect(change).toHaveBeenCalledWith({ ...typed, timesTen: true })
  rerender(
    <NumberBox label="Untreated" typed={{ ...typed, text: 'wet' }} meter={USUAL_METER} reading={one('wet', false)} onChange={change} />,
  )
  expect(screen.getByRole('alert').textContent).toContain('Not a number')
})

test('the pipe map names pressure and what is open', () => {
  const { system } = stopWith('under-sink-2', [1])
  const played = { ...playTrain(system.train, [], new Set()), pressure: 'none' as const, open: new Set(['stage-1']), catching: true }
  render(<PipeMap train={system.train} played={played} active={new Set(['stage-1'])} />)
  expect(screen.getByText('No pressure')).toBeTruthy()
  expect(screen.getByText('housing 1 open · catch in place')).toBeTruthy()
})

test('leaving a step out wants its reason', () => {
  const skip = jest.fn()
  render(<Cannot onSkip={skip} onStop={jest.fn()} onClose={jest.fn()} />)
  fireEvent.click(screen.getByText('Leave this step out'))
  expect(skip).not.toHaveBeenCalled()
  fireEvent.change(screen.getByLabelText('In a few words'), { target: { value: ' valve stuck ' } })
  fireEvent.click(screen.getByText('Leave this step out'))
  expect(skip).toHaveBeenCalledWith('valve stuck')
})
