import { type FAMILIES, leftStanding, type SheetStep, sheet, type Task } from '.'
import { allDue, trainOf, USUAL } from './testing'

function stopped(name: keyof typeof FAMILIES, tasks: Task[] | null, last: (step: SheetStep) => boolean): string[] {
  const train = trainOf(name)
  const made = sheet({ train, tasks: tasks ?? allDue(train), schools: USUAL })
  if (!made.ok) throw new Error(made.text)
  const steps = made.visits[0]?.steps ?? []
  const index = steps.findIndex(last)
  if (index < 0) throw new Error('no such step')
  return leftStanding(train, steps, new Set(steps.slice(0, index + 1).map(({ key }) => key)))
}

test('stopped with a housing open: what is shut, what is open, and that nothing is in it', () => {
  expect(stopped('under-sink-3', null, ({ verb, at }) => verb === 'take-out' && at[0] === 's2')).toEqual([
    'The feed valve is shut.',
    'Housing 2 is open, with no part in it.',
    'The tap is open.',
  ])
})

test('a line that hangs off and a lamp that is dark are named', () => {
  expect(stopped('under-sink-3', null, ({ verb }) => verb === 'flush')).toEqual(['The line after housing 2 is off.'])
  expect(stopped('ultraviolet', null, ({ verb }) => verb === 'power-off')).toContain('The lamp is switched off.')
})

test('half a valve is half a valve', () => {
  expect(stopped('under-sink-2', null, ({ verb, to }) => verb === 'open' && to === 'half')).toContain('The feed valve stands half open.')
})

test('before anything is touched, and once all is done, nothing is left standing', () => {
  for (const name of ['under-sink-3', 'reverse-osmosis-5', 'ultraviolet', 'carbon-tank', 'commercial-remineral'] as const) {
    expect(stopped(name, null, ({ verb }) => verb === 'measure')).toEqual([])
    expect(stopped(name, null, ({ verb, key }) => verb === 'tell' && key.startsWith('close-out'))).toEqual([])
  }
})
