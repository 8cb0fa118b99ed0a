import { speaking } from '../http/language'
import { addFirm, openWorld, type World } from '../testing/world'
import { Aside } from './aside'

let world: World
let firmId = ''
beforeAll(async () => {
  world = await openWorld('empty')
  firmId = (await addFirm(world, 'listed')).firmId
})
afterAll(() => world.close())

const LIST = 'Site;People\nOtter;3\n'
const open = (mostMs?: number): Aside =>
  new Aside({
    what: 'lists',
    always: false,
    url: world.database.appUrl,
    asAppRole: false,
    planSeconds: null,
    roadHosts: [],
    log: () => undefined,
    ...(mostMs === undefined ? {} : { mostMs }),
  })

test('a thread answers from the database, in the language of whoever asks, and refuses as the server does', async () => {
  const lists = open()
  try {
    const preview = await lists.ask<{ lines: number; counts: { sites: number } }>('preview', firmId, { text: LIST })
    expect([preview.lines, preview.counts.sites]).toEqual([1, 1])
    const refused = (language: 'en' | 'de') =>
      speaking(language, () => lists.ask('preview', firmId, { text: 'Site\n' })).catch(({ code, message }) => [code, message])
    expect(await refused('en')).toEqual(['BAD_INPUT', 'text: expected a line of headings and at least one line under it'])
    const [code, german] = (await refused('de')) as string[]
    expect(code).toBe('BAD_INPUT')
    expect(german).not.toContain('expected')
    await expect(lists.ask('nothing of the kind')).rejects.toThrow(/knows no nothing of the kind/)
  } finally {
    await lists.close()
  }
})

test('what takes too long is ended and said; the next thing asked finds a new thread', async () => {
  // A thread that is just being begun is not ready within this.
  const lists = open(5)
  await expect(lists.ask('preview', firmId, { text: LIST })).rejects.toMatchObject({ code: 'TIMED_OUT' })
  await expect(lists.ask('preview', firmId, { text: LIST })).rejects.toMatchObject({ code: 'TIMED_OUT' })
  await lists.close()
})
