import { peek } from '../testing/database'
import { openWorld, type World } from '../testing/world'
import { LIMITS, limitsOn } from './limits'

let world: World
beforeAll(async () => {
  world = await openWorld('empty')
})
afterAll(() => world.close())

const FEW = { ...LIMITS, calc: { times: 3, seconds: 60 } }

test('two processes count together, and nobody counts for another', async () => {
  const [here, there] = [limitsOn(world.source, FEW), limitsOn(world.doorSource, FEW)]
  await here('calc', 'isla')
  await there('calc', 'isla')
  await here('calc', 'isla')
  await expect(there('calc', 'isla')).rejects.toMatchObject({ code: 'SLOW_DOWN', more: { retryAfterS: expect.any(Number) } })
  await there('calc', 'tam')
  await here('feed', 'isla')
})

test('of a burst no more pass than may', async () => {
  const limit = limitsOn(world.source, FEW)
  const tries = await Promise.allSettled(Array.from({ length: 40 }, () => limit('calc', 'burst')))
  expect(tries.filter(({ status }) => status === 'fulfilled')).toHaveLength(3)
})

test('neither an address nor a person can be read from what is kept', async () => {
  await limitsOn(world.source, FEW)('sign-in', '203.0.113.7')
  const rows = await peek<{ key: string }>(world.database, 'select key from rate_limit')
  expect(rows.length).toBeGreaterThan(0)
  expect(rows.filter(({ key }) => /203\.0|isla|tam/.test(key))).toEqual([])
})
