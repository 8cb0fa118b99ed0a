import { createApp } from '../../app'
import { addFirm, asker, openWorld, type World } from '../../testing/world'
import { calcByText } from './by-text'

let world: World
beforeAll(async () => {
  world = await openWorld('empty')
})
afterAll(() => world.close())

test('from JSON text to JSON text: what is no JSON is said, and of a long list of wrong things the first hundred', () => {
  const meter = { display: 412, multiplier: 1, quantity: 'ec', scale: 0.64, compensated: false, temperatureC: 11, coefficientPerC: 0.02 }
  const tds = calcByText('readings.tds', JSON.stringify(meter))
  if (!tds.ok) throw new Error(JSON.stringify(tds.problems))
  // calc.md's own example: 412 / (1 + 0.02 × (11 − 25)) = 572.2222 µS/cm, × 0.64.
  expect(JSON.parse(tds.text).tdsMgL).toBeCloseTo(366.2222, 4)
  expect(calcByText('readings.tds', '{"display":')).toEqual({ ok: false, problems: [{ path: '$', message: 'expected JSON' }] })
  const wrong = calcByText('readings.tds', JSON.stringify(Array(500).fill({ display: 'much' })))
  expect(wrong.ok ? 0 : wrong.problems.length).toBe(100)
})

test('a heap of one firm’s sums keeps no other firm waiting, and is turned away past its bound', async () => {
  const begun: string[] = []
  let passed = 0
  const ends: (() => void)[] = []
  const app = createApp(
    {
      ...world.deps,
      // Asked on the way to the gate.
      limit: async (...about) => {
        await world.deps.limit(...about)
        passed += 1
      },
      calc: async (_, text) => {
        begun.push(text)
        await new Promise<void>((resolve) => ends.push(resolve))
        return text
      },
    },
    { ready: async () => true, signInHints: [] },
  )
  const asks = await Promise.all(
    ['heaper', 'other'].map(async (name) => {
      const firm = await addFirm(world, name)
      return asker(app, (await world.signIn(firm.email('owner'))).cookie)
    }),
  )
  const [heaper, other] = asks as [(typeof asks)[number], (typeof asks)[number]]
  const until = async (isSo: () => boolean): Promise<void> => {
    while (!isSo()) await new Promise((resolve) => setTimeout(resolve, 20))
  }
  const settled = (count: number): Promise<void> => until(() => begun.length >= count)
  // Two are worked on, sixteen wait, and the two after them are told to come again.
  const heap = Array.from({ length: 20 }, (_, index) => heaper('POST', '/api/calc/readings.tds', [index]))
  await settled(2)
  const late = other('POST', '/api/calc/readings.tds', ['other'])
  const first = await Promise.race(heap)
  await until(() => passed === 21)
  expect(first.status).toBe(503)
  expect(first.body.error.code).toBe('BUSY')
  for (let done = 0; done < 19; done++) {
    await settled(Math.min(19, done + 2))
    ends[done]?.()
  }
  expect((await late).body).toEqual(['other'])
  const answers = await Promise.all(heap)
  expect(answers.filter(({ status }) => status === 200)).toHaveLength(18)
  expect(answers.filter(({ status }) => status === 503)).toHaveLength(2)
  // The other firm's one comes after at most one more of the heap's, and not behind all of it.
  expect(begun.indexOf('["other"]')).toBeLessThanOrEqual(4)
})
