import { UNPLANNED_REASONS } from '@evenround/contract/rounds'
import { whyNoDay } from './why-no-day'

test('every reason says what to do; a visit nobody has planned yet needs no reason', () => {
  expect(whyNoDay('free', 'there is a day with room for it', [])).toBeNull()
  for (const reason of UNPLANNED_REASONS.filter((one) => one !== 'free'))
    expect(whyNoDay(reason, 'the reason', [])).toMatch(/^The reason\. [A-Z].+\.$/)
})

test('a person’s own tie is not shown as a skill', () => {
  expect(whyNoDay('skill', 'nobody has the skill it needs: only:01a2', ['only:01a2'])).toBe(
    'The technician it is tied to does not work in these weeks. Set their working times, or give the work to somebody else.',
  )
})
test('a plan of before reasons had names keeps its sentence', () => {
  expect(whyNoDay(undefined, 'it found no place', [])).toBe('it found no place.')
})
