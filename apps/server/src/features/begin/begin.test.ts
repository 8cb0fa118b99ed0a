import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { addFirm, asker, openWorld, type Person, SETUP_CODE, type World } from '../../testing/world'

let world: World
beforeAll(async () => {
  world = await openWorld('empty')
})
afterAll(() => world.close())

const stranger = (cookie = '') => asker(world.app, cookie)
const SETUP = {
  code: SETUP_CODE,
  firm: {
    name: 'Fennick Water',
    timeZone: 'Atlantic/Faroe',
    currency: 'EUR',
    gallon: 'us',
    units: { volume: 'L', pressure: 'bar', temperature: 'C' },
  },
  owner: { name: 'Isla Fennick', email: 'isla@own.example', password: 'kelp and tideway' },
  base: { name: 'Workshop', lat: 58.31, lon: -21.62 },
  week: { weekdays: [5, 1, 2, 3, 4, 1], fromMin: 450, toMin: 990 },
}
const minutesLater = (minutes: number): void => {
  world.clock.now = new Date(world.clock.now.getTime() + minutes * 60_000)
}
const signedInBy = (headers: Headers): string =>
  headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ')

describe('the first firm of a server', () => {
  test('begins with the code that the start printed, and with no other', async () => {
    expect((await stranger()('GET', '/api/setup')).body).toEqual({ open: true })
    const wrong = await stranger()('POST', '/api/setup', { ...SETUP, code: 'KELP-4TID-EWAX' })
    expect([wrong.status, wrong.body.error.fields[0].path]).toEqual([403, 'code'])
    expect(await peek(world.database, 'select 1 from firm')).toEqual([])
  })

  test('what is wrong is said at its place, and nothing is half written', async () => {
    const bad = { ...SETUP, firm: { ...SETUP.firm, timeZone: 'Sound/Skellan', currency: 'euro' }, week: { ...SETUP.week, toMin: 300 } }
    const { status, body } = await stranger()('POST', '/api/setup', bad)
    expect(status).toBe(400)
    expect(body.error.fields.map(({ path }: { path: string }) => path).sort()).toEqual(['firm.currency', 'firm.timeZone', 'week.toMin'])
    expect(await peek(world.database, 'select 1 from firm')).toEqual([])
  })

  test('guesses are slowed', async () => {
    for (let tries = 0; tries < 4; tries++) await stranger()('POST', '/api/setup', { ...SETUP, code: `guess ${tries}` })
    expect((await stranger()('POST', '/api/setup', SETUP)).status).toBe(429)
    minutesLater(20)
  })

  test('of two at once one becomes the firm; its owner is signed in, and the door is shut behind', async () => {
    const both = await Promise.all([
      stranger()('POST', '/api/setup', { ...SETUP, code: 'kelp4tideway' }),
      stranger()('POST', '/api/setup', { ...SETUP, owner: { ...SETUP.owner, email: 'other@fennick.example' } }),
    ])
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409])
    const first = both.find(({ status }) => status === 200)
    const me = await stranger(signedInBy(first?.headers ?? new Headers()))('GET', '/api/me')
    expect(me.body).toMatchObject({ person: { role: 'owner' }, firm: { name: 'Fennick Water', timeZone: 'Atlantic/Faroe' } })
    expect((await stranger()('GET', '/api/setup')).body).toEqual({ open: false })
    expect((await stranger()('POST', '/api/setup', SETUP)).status).toBe(409)
    expect(await peek(world.database, 'select weekdays, from_min, to_min from work_time')).toEqual([
      { weekdays: [1, 2, 3, 4, 5], from_min: 450, to_min: 990 },
    ])
    expect(await peek(world.database, 'select name, lat, lon from place p join work_time w on w.base = p.id')).toEqual([
      { name: 'Workshop', lat: 58.31, lon: -21.62 },
    ])
  })
})

describe('links for one person, good once', () => {
  let firm: Awaited<ReturnType<typeof addFirm>>
  let owner: Person
  beforeAll(async () => {
    firm = await addFirm(world, 'weir')
    owner = await world.signIn(firm.email('owner'))
  })
  const invite = (email: string) =>
    owner.ask('POST', '/api/people/invitations', { id: uuidv7(), name: 'Hale Wick', email, role: 'technician', skills: [], van: null })
  const ask = (token: string) => stranger()('POST', '/api/auth/links/ask', { token })
  const use = (token: string, password = 'a password of his own') => stranger()('POST', '/api/auth/links/use', { token, password })

  test('an invited person opens the link, chooses a password and is in; the second time it is good no more', async () => {
    const { body: link } = await invite('hale@weir.example')
    expect((await ask(link.token)).body).toEqual({ kind: 'invitation', name: 'Hale Wick', email: 'hale@weir.example', firm: 'weir' })
    const used = await use(link.token)
    expect((await stranger(signedInBy(used.headers))('GET', '/api/me')).body.person).toMatchObject({
      name: 'Hale Wick',
      role: 'technician',
    })
    expect([(await use(link.token)).status, (await ask(link.token)).status]).toEqual([404, 404])
    await world.signIn('hale@weir.example', 'a password of his own')
  })

  test('before it is used nobody signs in with that e-mail; after two weeks it has run out; a new one replaces it', async () => {
    const { body: link } = await invite('late@weir.example')
    await expect(world.signIn('late@weir.example', '')).rejects.toThrow()
    minutesLater(14 * 24 * 60 + 1)
    expect((await ask(link.token)).body.error.message).toContain('no longer good')
    owner = await world.signIn(firm.email('owner'))
    const again = await owner.ask('POST', `/api/people/${link.personId}/links`, { kind: 'invitation' })
    const once = await owner.ask('POST', `/api/people/${link.personId}/links`, { kind: 'invitation' })
    expect([(await ask(again.body.token)).status, (await ask(once.body.token)).status]).toEqual([404, 200])
  })

  test('the letter says it, and its link is the one that opens', async () => {
    const { body: link } = await invite('post@weir.example')
    expect(link.mailedTo).toBe('post@weir.example')
    const { body } = await owner.ask('GET', '/api/mailbox')
    expect(body.standIn).toBe(true)
    expect(body.mails[0]).toMatchObject({ to: 'post@weir.example', subject: 'weir invites you to Even Round' })
    expect(body.mails[0].text).toContain(`https://round.example/welcome?link=${link.token}`)
  })

  test('a forgotten password: the same answer for everybody, a letter for who is there, an hour to use it, every device out', async () => {
    const device = await world.signIn(firm.email('viewer'))
    const [known, nobody] = [
      await stranger()('POST', '/api/auth/forgot', { email: firm.email('viewer') }),
      await stranger()('POST', '/api/auth/forgot', { email: 'nobody@nowhere.example' }),
    ]
    expect(known.body).toEqual(nobody.body)
    const letters = async () => (await owner.ask('GET', '/api/mailbox')).body.mails as { to: string; text: string }[]
    for (let tries = 0; tries < 50 && (await letters())[0]?.to !== firm.email('viewer'); tries++)
      await new Promise((resolve) => setTimeout(resolve, 20))
    const [letter] = await letters()
    expect(letter?.to).toBe(firm.email('viewer'))
    const token = /link=(\S+)/.exec(letter?.text ?? '')?.[1] ?? ''
    expect((await use(token, 'quite another one')).status).toBe(200)
    expect((await device.ask('GET', '/api/me')).status).toBe(401)
    await world.signIn(firm.email('viewer'), 'quite another one')
  })

  test('no link is told to whoever may not manage people, and none is stored as it is', async () => {
    const technician = await world.signIn(firm.email('technician'))
    const tries = [
      await technician.ask('POST', `/api/people/${firm.ownerId}/links`, { kind: 'reset' }),
      await technician.ask('GET', '/api/mailbox'),
    ]
    expect(tries.map(({ status }) => status)).toEqual([403, 403])
    const { body: link } = await invite('hash@weir.example')
    const rows = await peek<{ token_hash: string }>(world.database, 'select token_hash from person_link')
    expect(rows.every(({ token_hash }) => token_hash !== link.token && /^[0-9a-f]{64}$/.test(token_hash))).toBe(true)
  })

  test('another firm’s owner makes no link for a person of this one', async () => {
    const other = await addFirm(world, 'narrows')
    const theirs = await world.signIn(other.email('owner'))
    expect((await theirs.ask('POST', `/api/people/${firm.viewerId}/links`, { kind: 'reset' })).status).toBe(404)
  })
})

test('the demo is looked at in a firm of its own and thrown away whole; the own firm keeps every row', async () => {
  const firm = await addFirm(world, 'strand')
  const owner = await world.signIn(firm.email('owner'))
  const rows = async (firmId: string): Promise<Record<string, number>> => {
    const tables = await peek<{ name: string }>(
      world.database,
      `select c.relname as name from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'firm_id'
       where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition`,
    )
    const counts: Record<string, number> = {}
    for (const { name } of tables) {
      const [row] = await peek<{ n: number }>(world.database, `select count(*)::int as n from ${name} where firm_id = $1`, [firmId])
      if (row && row.n > 0) counts[name] = row.n
    }
    return counts
  }
  const own = await rows(firm.firmId)
  expect((await owner.ask('GET', '/api/demo')).body).toEqual({ there: false, people: [] })
  const { body } = await owner.ask('POST', '/api/demo')
  expect(body.there).toBe(true)
  const [person] = body.people
  const tam = await world.signIn(person.email, person.password)
  expect((await tam.ask('GET', '/api/sites')).body.sites.length).toBeGreaterThan(10)
  // Another firm of the server neither sees it nor throws it away, nor does the demo itself.
  const other = await addFirm(world, 'tarrow')
  const theirs = await world.signIn(other.email('owner'))
  const [demoOwner] = body.people.filter(({ role }: { role: string }) => role === 'owner')
  const inside = await world.signIn(demoOwner.email, demoOwner.password)
  expect((await theirs.ask('GET', '/api/demo')).body.there).toBe(false)
  for (const one of [theirs, inside]) expect((await one.ask('DELETE', '/api/demo')).status).toBe(409)
  expect((await owner.ask('DELETE', '/api/demo')).body).toEqual({ there: false, people: [] })
  expect(await rows(world.deps.demo.firmId)).toEqual({})
  expect(await rows(firm.firmId)).toEqual(own)
  expect((await tam.ask('GET', '/api/me')).status).toBe(401)
})

test('no fact goes by itself: neither by the server’s role nor with the sign that throws the demo away', async () => {
  await expect(
    world.source.transaction(async (manager) => {
      await manager.query(
        `select set_config('app.throws_away', firm_id::text, true), set_config('app.firm_id', firm_id::text, true) from firm limit 1`,
      )
      await manager.query('delete from fact_visit_begun')
    }),
  ).rejects.toThrow('permission denied')
})

test('nobody of a firm that is switched off is in any more', async () => {
  const firm = await addFirm(world, 'holm')
  const owner = await world.signIn(firm.email('owner'))
  await peek(world.database, 'update firm set disabled_at = now() where firm_id = $1', [firm.firmId])
  expect((await owner.ask('GET', '/api/me')).status).toBe(401)
})
