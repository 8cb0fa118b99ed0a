import { spawnSync } from 'node:child_process'
import { join } from 'node:path'

/** The command itself, as a firm's script would call it. */
const BIN = join(__dirname, '../../../bin/calc')
const calc = (args: string[], input = ''): { status: number | null; stdout: string; stderr: string } => {
  const { status, stdout, stderr } = spawnSync(BIN, args, { input, encoding: 'utf8' })
  return { status, stdout, stderr }
}
const EXAMPLE = { display: 412, multiplier: 1, quantity: 'ec', scale: 0.64, compensated: false, temperatureC: 11, coefficientPerC: 0.02 }

test('alone it lists the names, with --schema it prints the input’s JSON Schema', () => {
  expect(calc([])).toEqual({
    status: 0,
    stdout:
      'readings.tds\nreadings.membrane\nreadings.resin\ndisinfection.volume\ndisinfection.dose\ndisinfection.contact\ndisinfection.flush\ndisinfection.neutralise\nwear.forecast\nwear.due\ntrain.sheet\nround.plan\nround.cost\ntrain.check\nyear.plan\nyear.cost\n',
    stderr: '',
  })
  const { status, stdout } = calc(['readings.membrane', '--schema'])
  expect(status).toBe(0)
  expect(JSON.parse(stdout)).toMatchObject({ type: 'object', required: ['feedTdsMgL', 'productTdsMgL', 'school'] })
})

test('one input gives one output, an array an array; numbers are unrounded', () => {
  const one = JSON.parse(calc(['readings.tds'], JSON.stringify(EXAMPLE)).stdout)
  expect(one.ec25UsCm).toBeCloseTo(572.2222, 4)
  expect(String(one.tdsMgL)).toMatch(/^366\.2222222/)
  expect(JSON.parse(calc(['readings.tds'], JSON.stringify([EXAMPLE, EXAMPLE])).stdout)).toEqual([one, one])
})

test('a year is planned by name, and its plan is priced as it says', () => {
  const input = {
    weeks: 13,
    capacityMin: Array(13).fill(600),
    areas: [{ id: 'north', roundTripMin: 60, betweenMin: 10 }],
    sites: [{ id: 'a', area: 'north', visitMin: 20 }],
    chains: [{ id: 'x', site: 'a', workMin: 60, every: 6, last: -2, early: 1, late: 1, earlyPerWeek: 4, latePerWeek: 7 }],
    seed: 1,
  }
  const plan = JSON.parse(calc(['year.plan'], JSON.stringify({ ...input, iterations: 50 })).stdout)
  expect(plan.visits).toEqual([4, 10].map((week) => ({ site: 'a', week, chains: ['x'] })))
  const { cost, broken } = JSON.parse(calc(['year.cost'], JSON.stringify({ ...input, plan: { visits: plan.visits } })).stdout)
  expect([broken, cost.travel]).toEqual([[], 140])
  expect(plan.cost.total).toBeCloseTo(cost.total, 6)
  // What may be said besides: minutes at sites in a day there (80 are two days of 50), and a price for getting in.
  const far = { ...input, areas: [{ id: 'north', roundTripMin: 60, betweenMin: 10, dayMin: 50 }], weights: { visits: 1 } }
  const { cost: more } = JSON.parse(calc(['year.cost'], JSON.stringify({ ...far, plan: { visits: plan.visits } })).stdout)
  expect([more.travel, more.visits]).toEqual([260, 40])
  expect(calc(['year.plan'], JSON.stringify({ ...input, seconds: 1, capacityMin: [1] }))).toMatchObject({
    status: 2,
    stdout: '',
    stderr: 'capacityMin: expected 13 figures, one a week, got 1\n',
  })
})

test.each([
  [
    'a field of the wrong kind',
    ['readings.tds'],
    JSON.stringify({ ...EXAMPLE, display: '412' }),
    'display: expected a value of type number, got "412"\n',
  ],
  ['no JSON', ['readings.tds'], '{', /^\$: expected JSON on standard input/],
  ['an unknown name', ['readings.nope'], '', /^NAME: expected one of readings\.tds/],
  ['too many words', ['readings.tds', '--shcema'], '', /^expected no more than NAME and --schema, got --shcema/],
  [
    'one bad input among good ones',
    ['readings.tds'],
    JSON.stringify([EXAMPLE, {}]),
    /^\[1\]\.display: expected a value of type number, got nothing\n/,
  ],
])('%s: exit 2, the problem on standard error, nothing on standard output', (_, args, input, words) => {
  const { status, stdout, stderr } = calc(args, input)
  expect([status, stdout]).toEqual([2, ''])
  if (typeof words === 'string') expect(stderr).toBe(words)
  else expect(stderr).toMatch(words)
})
