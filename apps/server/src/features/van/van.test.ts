import type { VanList } from '@evenround/contract/rounds'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let tam: Person
let wren: Person
beforeAll(async () => {
  world = await openWorld('demo')
  tam = await world.signIn('tam@fennick.example')
  wren = await world.signIn('wren@fennick.example')
})
afterAll(() => world.close())

const listOf = async (who: Person, query = ''): Promise<VanList> => (await who.ask('GET', `/api/van${query}`)).body

test('a day’s parts, what a change uses up and what it takes in hand, each once with the sites it is for', async () => {
  const { items } = await listOf(tam)
  const of = (name: string) => items.find((item) => item.name === name)
  const parts = items.filter(({ kind }) => kind === 'part')
  expect(parts.map(({ key }) => key)).toEqual(expect.arrayContaining(['BRK-SED-10', 'BRK-CB-10', 'BRK-SED-20']))
  expect(parts.find(({ key }) => key === 'BRK-SED-10')?.forSites).toContain('Net loft cottage')
  expect(of('Housing wrench, large')?.count).toBe(1)
  expect(of('Draining sack')?.forSites).toEqual(['Boatyard wash-down'])
  expect(of('TDS meter')?.kind).toBe('tool')
})

test('a week is more than a day, and Wren’s days of disinfection bring strips', async () => {
  const [day, week] = [await listOf(tam), await listOf(tam, '?days=7')]
  const count = (list: VanList): number => list.items.filter(({ kind }) => kind === 'part').reduce((sum, item) => sum + item.count, 0)
  expect(count(week)).toBeGreaterThan(count(day))
  const chlorine = (await listOf(wren, '?days=14')).items.filter(({ kind }) => kind === 'chlorine')
  expect(chlorine.some(({ name }) => name.includes('strips'))).toBe(true)
})

test('ticked as loaded or short by one person; what is short says by when to order: five working days before', async () => {
  const { from, items } = await listOf(tam)
  const [part] = items
  const tick = (state: 'loaded' | 'short' | null) => tam.ask('PUT', '/api/van/ticks', { day: from, key: part?.key, state })
  const now = async () => (await listOf(tam)).items.find(({ key }) => key === part?.key)
  await tick('loaded')
  expect(await now()).toMatchObject({ state: 'loaded', orderBy: null })
  await tick('short')
  const short = await now()
  expect(short?.state).toBe('short')
  const orderBy = new Date(`${short?.orderBy}T12:00:00Z`)
  let working = 0
  for (let at = new Date(`${part?.firstDay}T12:00:00Z`); at > orderBy; ) {
    at = new Date(at.getTime() - 86_400_000)
    if (at.getUTCDay() % 6 !== 0) working++
  }
  expect(working).toBe(5)
  await tick(null)
  expect((await now())?.state).toBeNull()
})
