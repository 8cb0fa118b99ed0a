import { playTrain, type SheetStep, sheet, stagesWorked, surprisesFor } from '@evenround/core/train'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { judge, NOTHING_TYPED, USUAL_METER } from '../features/readings/judge'
import { NumberBox } from '../features/readings/number-box'
import { CannotAt } from '../features/train/cannot'
import { PipeMap } from '../features/train/pipe-map'
import { TrainLine } from '../parts/wear/train-line'
import { inProgram } from '../testing/screen'
import { stopWith, TODAY } from '../testing/stop'
import { DayLine } from './day-line'

afterEach(cleanup)

test('a train says in words what its vessels draw: what is left, what decides, what is due', () => {
  const { system } = stopWith('reverse-osmosis-5', [1])
  render(<TrainLine stages={system.stages} due={new Set(['stage-1'])} today={TODAY} />, { wrapper: inProgram })
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
  const { rerender } = render(
    <NumberBox label="Untreated" typed={typed} meter={USUAL_METER} reading={one('41', true)} onChange={change} />,
    { wrapper: inProgram },
  )
  expect(screen.getByText('= 410 mg/L at 25 °C')).toBeTruthy()
  fireEvent.click(screen.getByRole('switch', { name: '×10 mark, untreated' }))
  expect(change).toHaveBeenCalledWith({ ...typed, timesTen: true })
  rerender(
    <NumberBox label="Untreated" typed={{ ...typed, text: 'wet' }} meter={USUAL_METER} reading={one('wet', false)} onChange={change} />,
  )
  expect(screen.getByRole('alert').textContent).toContain('Not a number')
})

const SCHOOLS = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' } as const

test('the pipe map names pressure and what is open', () => {
  const { system } = stopWith('under-sink-2', [1])
  const played = { ...playTrain(system.train, [], new Set()), pressure: 'none' as const, open: new Set(['stage-1']), catching: true }
  render(<PipeMap train={system.train} played={played} active={new Set(['stage-1'])} />)
  expect(screen.getByText('No pressure')).toBeTruthy()
  expect(screen.getByText('housing 1 open · catch in place')).toBeTruthy()
})

const STEP = { key: 'a', text: 'Shut the feed' } as SheetStep
const cannot = (more: Partial<Parameters<typeof CannotAt>[0]> = {}) => (
  <CannotAt
    steps={[STEP]}
    surprises={() => []}
    nameOf={(id) => id}
    onSurprise={jest.fn()}
    onSkip={jest.fn()}
    onStop={jest.fn()}
    onClose={jest.fn()}
    {...more}
  />
)

test('of a block it is asked first which step cannot be done', () => {
  const skip = jest.fn()
  const second = { key: 'b', text: 'Open the tap' } as SheetStep
  render(cannot({ steps: [STEP, second], onSkip: skip }))
  expect(screen.queryByText('Leave this step out')).toBeNull()
  fireEvent.click(screen.getByText('Open the tap'))
  fireEvent.change(screen.getByLabelText('Something else, in a few words'), { target: { value: 'seized' } })
  fireEvent.click(screen.getByText('Leave this step out'))
  expect(skip).toHaveBeenCalledWith(second, 'seized')
})

test('leaving a step out wants its reason', () => {
  const skip = jest.fn()
  render(cannot({ onSkip: skip }))
  fireEvent.click(screen.getByText('Leave this step out'))
  expect(skip).not.toHaveBeenCalled()
  fireEvent.change(screen.getByLabelText('Something else, in a few words'), { target: { value: ' valve stuck ' } })
  fireEvent.click(screen.getByText('Leave this step out'))
  expect(skip).toHaveBeenCalledWith(STEP, 'valve stuck')
})

test('a leak: advice in its order, then which one, then the sheet goes on', () => {
  const { system } = stopWith('under-sink-2', [1, 2])
  const made = sheet({
    train: system.train,
    tasks: [
      { stage: 'stage-1', action: 'change' },
      { stage: 'stage-2', action: 'change' },
    ],
    schools: SCHOOLS,
  })
  const steps = made.ok ? made.visits.flatMap((visit) => visit.steps) : []
  const leak = steps.find(({ verb }) => verb === 'leak-check') as SheetStep
  const go = jest.fn()
  render(
    cannot({
      steps: [leak],
      surprises: (step) => surprisesFor(system.train, step, stagesWorked(steps)),
      nameOf: (id) => `Housing ${id.slice(-1)}`,
      onSurprise: go,
    }),
  )
  fireEvent.click(screen.getByText('Something drips'))
  expect(screen.getAllByRole('listitem')[0]?.textContent).toContain('Two gaskets')
  fireEvent.click(screen.getByTestId('surprise-go-on'))
  expect(go).not.toHaveBeenCalled()
  fireEvent.click(screen.getByText('Housing 2'))
  fireEvent.click(screen.getByTestId('surprise-go-on'))
  expect(go).toHaveBeenCalledWith(leak, 'still-leaking', 'stage-2')
})
