import { stopWith, TODAY } from '../../testing/stop'
import { dueSentence, fittedText, waterOf } from './words'

const [stage] = stopWith('under-sink-3', [1]).system.stages
if (!stage) throw new Error('no stage')

test('the number, the reason and the window in one sentence', () => {
  expect(dueSentence(stage, TODAY)).toBe('Sediment ends about 18 Jan 2027 (20 Dec–1 Mar 2027): calendar.')
})

test('near its earliest end it may be done any day', () => {
  expect(dueSentence(stage, '2026-12-10')).toBe('Sediment may be done any day, likely by 18 January 2027: calendar.')
})

test('as likely over as not, it is said to be spent, and no later end is promised', () => {
  const over = (ended: number) => {
    if (!stage.forecast) throw new Error('no forecast')
    return dueSentence({ ...stage, forecast: { ...stage.forecast, p10: '2026-07-01', p50: '2026-09-01', p90: '2026-11-01', ended } }, TODAY)
  }
  expect(over(0.951)).toBe('Sediment is spent, very likely (95 in 100): calendar. Change it now.')
  expect(over(0.9999)).toContain('(99 in 100)')
  expect(over(0.62)).toBe('Sediment is probably spent (62 in 100): calendar. Change it now.')
  expect(over(0.49)).toContain('may be done any day')
})

test('what is not known is said', () => {
  expect(dueSentence({ ...stage, part: null }, TODAY)).toBe('Sediment: nobody knows what is fitted.')
  expect(dueSentence({ ...stage, forecast: null }, TODAY)).toBe('Sediment: nothing rates its life.')
  expect(waterOf({ ...stage, forecast: null }, TODAY)).toEqual({ level: null, band: null, cause: null })
})

test('fitted, and how long ago', () => {
  expect(fittedText(stage, TODAY)).toBe('P-1, fitted 9 May, 200 days ago')
})

test('the water stands at the life left, the band from the early to the late end', () => {
  const { level, band, cause } = waterOf(stage, TODAY)
  // 200 days gone, 54 to the median: the whole is 254; 25 and 96 days of it make the band.
  expect(level).toBe(0.2)
  expect(band?.low).toBeCloseTo(25 / 254, 9)
  expect(band?.high).toBeCloseTo(96 / 254, 9)
  expect(cause).toBe('calendar')
})
