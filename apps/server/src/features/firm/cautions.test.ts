import { addFirm, asker, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let owner: Person
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'harbour')
  owner = await world.signIn(firm.email('owner'))
})
afterAll(() => world.close())

const READ = { mark: '0badcafe', reader: 'Ann Example, master plumber' }
const signedOf = async (): Promise<unknown> => (await owner.ask('GET', '/api/firm')).body.cautionsSigned

test('cautions of a language are signed off by an owner, by name, and that is recorded for good', async () => {
  expect(await signedOf()).toEqual({})
  const { version } = (await owner.ask('GET', '/api/firm')).body
  const answer = await owner.ask('PUT', '/api/firm/cautions/de', READ)
  expect(answer.status).toBe(200)
  expect(answer.body).toMatchObject({ version: version + 1, cautionsSigned: { de: { ...READ, at: world.clock.now.toISOString() } } })
  expect((await owner.ask('GET', '/api/audit')).body.deeds[0]).toMatchObject({
    what: 'cautions-signed',
    said: 'Cautions in de signed off, read by Ann Example, master plumber.',
  })
  expect((await owner.ask('GET', '/api/me')).body.firm.cautionsSigned.de.reader).toBe(READ.reader)
  expect((await owner.ask('DELETE', '/api/firm/cautions/de')).status).toBe(200)
  expect(await signedOf()).toEqual({})
})

test.each(['technician', 'viewer'] as const)('a %s signs nothing off', async (role) => {
  const person = await world.signIn(firm.email(role))
  expect((await person.ask('PUT', '/api/firm/cautions/de', READ)).body.error.code).toBe('NO_RIGHT')
  expect((await person.ask('DELETE', '/api/firm/cautions/de')).body.error.code).toBe('NO_RIGHT')
  expect(await signedOf()).toEqual({})
})

test.each([
  ['a language the program does not speak', 'fr', READ],
  ['English, which is what the others are read against', 'en', READ],
  ['nobody who read them', 'de', { ...READ, reader: ' ' }],
  ['no mark of a wording', 'de', { ...READ, mark: 'yes' }],
])('refused: %s', async (_, language, input) => {
  expect((await owner.ask('PUT', `/api/firm/cautions/${language}`, input)).status).toBe(400)
  expect(await signedOf()).toEqual({})
})

test('a request is answered in the language it asks for, others beside it in theirs', async () => {
  const german = async (path: string) => world.app.request(path, { headers: { cookie: owner.cookie, 'accept-language': 'de-DE,de;q=0.9' } })
  const messageOf = async (answer: Promise<Response> | Response): Promise<string> =>
    ((await (await answer).json()) as { error: { message: string } }).error.message
  const english = asker(world.app, owner.cookie)
  const [own, theirs] = await Promise.all([german('/api/nowhere').then(messageOf), english('GET', '/api/nowhere')])
  expect(own).toBe('Diese Adresse gibt es nicht.')
  expect(theirs.body.error.message).toBe('There is no such route.')
  // A form that is refused names its fields as ever, and says what is wrong in that language.
  const refused = await world.app.request('/api/firm', {
    method: 'PUT',
    headers: { cookie: owner.cookie, 'content-type': 'application/json', 'accept-language': 'de' },
    body: '{}',
  })
  const { fields } = ((await refused.json()) as { error: { fields: { path: string; message: string }[] } }).error
  expect(fields.find(({ path }) => path === 'name')?.message).toMatch(/^erwartet wird/)
})
