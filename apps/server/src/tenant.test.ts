import { FAMILIES, familyTrain } from '@evenround/core/train'
import { v7 as uuidv7 } from 'uuid'
import { peek } from './testing/database'
import { batch, begun, fitted, measured, ticked } from './testing/facts'
import { PLAIN_SITE } from './testing/plain-site'
import { roundAttempts, type TheirRound, theirRound } from './testing/round-attempts'
import { addFirm, openWorld, type Person, type World } from './testing/world'

/** The first firm is the demo; the second one signs in and tries every route with the first one's ids. */
let world: World
let intruder: Person
let own: Awaited<ReturnType<typeof addFirm>>
let theirs: {
  firmId: string
  personId: string
  siteId: string
  systemId: string
  stopId: string
  stageId: string
  visitId: string
  factId: string
  sessionId: string
  partId: string
  jobId: string
  chlorineId: string
  round: TheirRound
  everyId: string[]
}

const TABLES = [
  'firm',
  'person',
  'site',
  'site_move',
  'system',
  'train_version',
  'part',
  'stage',
  'stop',
  'stop_task',
  'auth_user',
  'auth_account',
  'auth_session',
  'person_link',
  'crossing',
  'road_server',
  'road_row',
  'fact_receipt',
  'fact_visit_begun',
  'fact_tds_reading',
  'fact_step_done',
  'fact_block_done',
  'fact_work_changed',
  'fact_fault_noted',
  'fact_fault_settled',
  'fact_site_mended',
  'fact_timer_started',
  'fact_part_removed',
  'fact_part_fitted',
  'fact_hold_begun',
  'fact_visit_finished',
  'fact_stage_reading',
  'fact_step_surprise',
  'fact_hold_lifted',
  'fact_hold_told',
  'forecast_judged',
  'occupancy',
  'stage_forecast',
  'stale_stage',
  'due_rule',
  'stated_use',
  'device',
  'device_day',
  'intake',
  'medium_profile',
  'own_kind',
  'part_equivalent',
  'photo',
  'photo_bytes',
  'fact_job_planned',
  'fact_chlorine_dosed',
  'fact_strip_read',
  'fact_sample_taken',
  'fact_sample_result',
  'fact_job_day_ended',
  'disinfection',
  'chlorine_product',
  'place',
  'travel_matrix',
  'work_time',
  'day_off',
  'site_hours',
  'round_mark',
  'round_extra',
  'round_set',
  'round_draft',
  'round_publication',
  'round_run',
  'year_plan',
  'feed',
  'van_tick',
  'audit',
  'customer_look',
  'firm_file',
  'firm_file_part',
]

async function fingerprint(): Promise<string> {
  const sums: string[] = []
  // One after another: every look is a connection of its own, and the database has only so many.
  for (const table of TABLES) {
    const [row] = await peek<{ sum: string }>(
      world.database,
      `select md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from ${table} t where firm_id = $1`,
      [theirs.firmId],
    )
    sums.push(`${table}:${row?.sum}`)
  }
  return sums.join('\n')
}

beforeAll(async () => {
  world = await openWorld('demo')
  await world.signIn('tam@fennick.example')
  const isla = await world.signIn('isla@fennick.example')
  const round = await theirRound(isla)
  await isla.ask('POST', '/api/kinds', { name: 'ceramic candle', ...KIND })
  own = await addFirm(world, 'rival')
  intruder = await world.signIn(own.email('owner'))
  const first = async (sql: string) => (await peek<Record<string, string>>(world.database, sql))[0] as Record<string, string>
  const stop = await first(
    `select s.firm_id, s.id, s.site_id, s.system_id, s.technician_id from stop s where s.job_id is null order by s.day, s.order_no limit 1`,
  )
  const fact = await first('select id, visit_id from fact_visit_begun order by at limit 1')
  const stage = await first(`select stage_id from stop_task where stop_id = '${stop.id}' limit 1`)
  const session = await first(`select id from auth_session where firm_id = '${stop.firm_id}' limit 1`)
  const part = await first(`select id from part where firm_id = '${stop.firm_id}' limit 1`)
  const job = await first(`select id from disinfection where firm_id = '${stop.firm_id}' limit 1`)
  const chlorine = await first(`select id from chlorine_product where firm_id = '${stop.firm_id}' limit 1`)
  const every = await peek<{ id: string }>(
    world.database,
    `select id from site where firm_id = $1 union select id from stop where firm_id = $1 union select id from person where firm_id = $1 union select id from part where firm_id = $1 union select id from stage where firm_id = $1 union select visit_id from fact_visit_begun where firm_id = $1 union select id from disinfection where firm_id = $1 union select id from chlorine_product where firm_id = $1`,
    [stop.firm_id],
  )
  theirs = {
    firmId: stop.firm_id as string,
    personId: stop.technician_id as string,
    siteId: stop.site_id as string,
    systemId: stop.system_id as string,
    stopId: stop.id as string,
    stageId: stage.stage_id as string,
    visitId: fact.visit_id as string,
    factId: fact.id as string,
    sessionId: session.id as string,
    partId: part.id as string,
    jobId: job.id as string,
    chlorineId: chlorine.id as string,
    round,
    everyId: every.map(({ id }) => id),
  }
})
afterAll(() => world.close())

const KIND = {
  causes: ['calendar'],
  lifeMonths: 12,
  ratedLitres: null,
  soakHours: null,
  flush: null,
  endUp: 'either',
  cautions: [],
}
const RATED = { days: 100, litres: null, milliequivalents: null, hours: null }
const SITE = {
  name: 'Taken over',
  ...PLAIN_SITE,
}

const TRAIN = familyTrain(FAMILIES['under-sink-2'], [uuidv7(), uuidv7()])

/** For every route: the path with the first firm's ids, and a body in the right form. */
function attempts(): Record<string, { path: string; input?: unknown; status: number }> {
  const { personId, siteId, stopId, visitId, sessionId } = theirs
  const foreign = { siteId, systemId: theirs.systemId, visitId }
  const ownSchools = {
    change: 'calendar',
    membrane: 'fixed-floor',
    closing: 'hand-only',
    seals: 'new',
    order: 'all-out',
    tankWater: 'drain',
  }
  return {
    'GET /api/me': { path: '/api/me', status: 200 },
    'GET /api/offline': { path: '/api/offline', status: 200 },
    'GET /api/firm': { path: '/api/firm', status: 200 },
    'PUT /api/firm': { path: '/api/firm', input: { version: 1, name: 'Rival', gallon: 'us', schools: ownSchools }, status: 200 },
    'PUT /api/firm/cautions/{language}': { path: '/api/firm/cautions/de', input: { mark: '0badcafe', reader: 'Ann Example' }, status: 200 },
    'DELETE /api/firm/cautions/{language}': { path: '/api/firm/cautions/de', status: 200 },
    'GET /api/due': { path: '/api/due', status: 200 },
    'GET /api/devices': { path: '/api/devices', status: 200 },
    'POST /api/devices': {
      path: '/api/devices',
      input: { id: uuidv7(), systemId: theirs.systemId, name: 'Spy', kind: 'pulse-counter' },
      status: 404,
    },
    'DELETE /api/devices/{id}': { path: `/api/devices/${theirs.stageId}`, status: 404 },
    'POST /api/parts/list/check': { path: '/api/parts/list/check', input: { text: 'Part;Kind\nX;sediment' }, status: 200 },
    'POST /api/parts/list': { path: '/api/parts/list', input: { text: 'Part;Kind\nX;gravel' }, status: 200 },
    'POST /api/parts': {
      path: '/api/parts',
      input: {
        id: uuidv7(),
        partNumber: 'XX-1',
        maker: 'M',
        name: 'N',
        media: 'sediment',
        housing: 'sump-small',
        rated: RATED,
        priceMinor: 1,
      },
      status: 200,
    },
    'PUT /api/parts/{id}': {
      path: `/api/parts/${theirs.partId}`,
      input: { version: 1, partNumber: 'XX-2', maker: 'M', name: 'N', rated: RATED, priceMinor: 1, fittedToo: true, equivalents: [] },
      status: 404,
    },
    'PUT /api/media/{media}': {
      path: '/api/media/sediment',
      input: { version: 0, lifeMonths: 7, ratedLitres: null, ratedHours: null, limits: { overCleanKpa: 60 } },
      status: 200,
    },
    'POST /api/kinds': { path: '/api/kinds', input: { name: 'theirs', ...KIND }, status: 200 },
    'PUT /api/kinds/{name}': { path: '/api/kinds/ceramic%20candle', input: { version: 1, ...KIND }, status: 404 },
    'GET /api/due-rules': { path: '/api/due-rules', status: 200 },
    'GET /api/due-rules/hindsight': { path: '/api/due-rules/hindsight', status: 200 },
    'POST /api/due-rules/preview': {
      path: '/api/due-rules/preview',
      input: { level: 'site', about: siteId, rule: null },
      status: 200,
    },
    'PUT /api/due-rules': {
      path: '/api/due-rules',
      input: {
        level: 'stage',
        about: theirs.stageId,
        rule: { by: 'contract', months: 6, anchor: null, care: 'as-label', beyondLabel: false },
      },
      status: 404,
    },
    'PUT /api/uses': {
      path: '/api/uses',
      input: { level: 'system', about: theirs.systemId, use: { by: 'drinks-a-day', amount: 10, fillL: null } },
      status: 404,
    },
    'GET /api/due.csv': { path: '/api/due.csv', status: 200 },
    'GET /api/stages/{id}': { path: `/api/stages/${theirs.stageId}`, status: 404 },
    'PUT /api/stages/{id}/school': { path: `/api/stages/${theirs.stageId}/school`, input: { school: 'calendar' }, status: 404 },
    'PUT /api/sites/{id}/school': { path: `/api/sites/${siteId}/school`, input: { school: 'calendar' }, status: 404 },
    'GET /api/people': { path: '/api/people', status: 200 },
    'POST /api/people': {
      path: '/api/people',
      input: {
        id: personId,
        name: 'Twin',
        email: 'twin@rival.example',
        role: 'owner',
        skills: [],
        van: null,
        password: 'long enough for this',
      },
      status: 409,
    },
    'PUT /api/people/{id}': {
      path: `/api/people/${personId}`,
      input: { version: 1, name: 'Nobody', role: 'viewer', skills: [], van: null, active: false },
      status: 404,
    },
    'GET /api/search': { path: '/api/search?q=net', status: 200 },
    'GET /api/demo': { path: '/api/demo', status: 200 },
    'POST /api/demo': { path: '/api/demo', status: 409 },
    'DELETE /api/demo': { path: '/api/demo', status: 409 },
    'GET /api/mailbox': { path: '/api/mailbox', status: 200 },
    'GET /api/sites-left': { path: '/api/sites-left', status: 200 },
    'GET /api/sites/{id}/customer': { path: `/api/sites/${theirs.siteId}/customer`, status: 404 },
    'POST /api/sites/{id}/leave': { path: `/api/sites/${theirs.siteId}/leave`, status: 404 },
    'POST /api/sites/{id}/changes': {
      path: `/api/sites/${theirs.siteId}/changes`,
      input: { before: { name: 'x' }, after: { name: 'y' } },
      status: 404,
    },
    'POST /api/sites/{id}/merge': { path: `/api/sites/${theirs.siteId}/merge`, input: { from: own.siteId }, status: 404 },
    'POST /api/sites/{id}/systems': {
      path: `/api/sites/${theirs.siteId}/systems`,
      input: { systemId: own.systemId, wholePast: true },
      status: 404,
    },
    'POST /api/sites/{id}/come-back': { path: `/api/sites/${theirs.siteId}/come-back`, status: 404 },
    'POST /api/sites/{id}/erase': { path: `/api/sites/${theirs.siteId}/erase`, input: { name: 'Net loft cottage' }, status: 404 },
    'GET /api/book.csv': { path: '/api/book.csv', status: 200 },
    'GET /api/sites/{id}/life': { path: `/api/sites/${theirs.siteId}/life`, status: 404 },
    'GET /api/office': { path: '/api/office', status: 200 },
    'GET /api/audit': { path: '/api/audit', status: 200 },
    'GET /api/audit/looks': { path: '/api/audit/looks', status: 200 },
    'GET /api/backups': { path: '/api/backups', status: 200 },
    'GET /api/firm-file': { path: '/api/firm-file', status: 200 },
    'GET /api/firm-file/{id}': { path: `/api/firm-file/${theirs.visitId}`, status: 404 },
    'POST /api/firm-file': { path: '/api/firm-file', status: 200 },
    'POST /api/people/invitations': {
      path: '/api/people/invitations',
      input: { id: theirs.personId, name: 'x', email: 'x@theirs.example', role: 'owner', skills: [], van: null },
      status: 409,
    },
    'POST /api/people/{id}/links': { path: `/api/people/${theirs.personId}/links`, input: { kind: 'reset' }, status: 404 },
    'POST /api/people/{id}/password': {
      path: `/api/people/${personId}/password`,
      input: { password: 'long enough for this' },
      status: 404,
    },
    'GET /api/people/{id}/sign-ins': { path: `/api/people/${personId}/sign-ins`, status: 404 },
    'DELETE /api/people/{id}/sign-ins/{signInId}': { path: `/api/people/${personId}/sign-ins/${sessionId}`, status: 404 },
    'GET /api/me/second': { path: '/api/me/second', status: 200 },
    'POST /api/me/second': { path: '/api/me/second', input: { password: 'wrong wrong' }, status: 400 },
    'POST /api/me/second/confirm': { path: '/api/me/second/confirm', input: { code: '000000' }, status: 409 },
    'POST /api/me/second/codes': { path: '/api/me/second/codes', input: { password: 'wrong wrong' }, status: 400 },
    'POST /api/me/second/off': { path: '/api/me/second/off', input: { password: 'wrong wrong' }, status: 400 },
    'POST /api/me/passkeys/ask': { path: '/api/me/passkeys/ask', input: { password: 'wrong wrong' }, status: 400 },
    'POST /api/me/passkeys': { path: '/api/me/passkeys', input: { name: 'x', response: {} }, status: 400 },
    'DELETE /api/me/passkeys/{id}': { path: `/api/me/passkeys/${theirs.personId}`, status: 404 },
    'DELETE /api/people/{id}/second': { path: `/api/people/${theirs.personId}/second`, status: 404 },
    'POST /api/me/password': {
      path: '/api/me/password',
      input: { currentPassword: 'not it, not it', newPassword: 'long enough for this' },
      status: 400,
    },
    'POST /api/sites': { path: '/api/sites', input: { id: uuidv7(), ...SITE }, status: 200 },
    'PUT /api/sites/{id}': { path: `/api/sites/${siteId}`, input: { version: 1, ...SITE }, status: 404 },
    'GET /api/systems/{id}/train': { path: `/api/systems/${theirs.systemId}/train`, status: 404 },
    'PUT /api/systems/{id}/train': {
      path: `/api/systems/${theirs.systemId}/train`,
      input: { version: 1, name: 'Taken over', train: TRAIN },
      status: 404,
    },
    'POST /api/systems/{id}/changes': {
      path: `/api/systems/${theirs.systemId}/changes`,
      input: { before: { name: 'Kitchen', serialNo: '', train: TRAIN }, after: { name: 'Taken over', serialNo: '', train: TRAIN } },
      status: 404,
    },
    'POST /api/systems': { path: '/api/systems', input: { id: uuidv7(), siteId, name: 'Taken over', train: TRAIN }, status: 404 },
    'POST /api/stops': {
      path: '/api/stops',
      input: { id: uuidv7(), systemId: theirs.systemId, tasks: [{ stageId: theirs.stageId, action: 'change' }] },
      status: 404,
    },
    'POST /api/stops/{id}/put-off': { path: `/api/stops/${stopId}/put-off`, input: { day: null }, status: 404 },
    'POST /api/facts': {
      path: '/api/facts',
      input: batch(begun(foreign), ticked(foreign, 'k'), measured(foreign, 4), fitted(foreign, theirs.stageId)),
      status: 200,
    },
    'GET /api/intakes': { path: '/api/intakes', status: 200 },
    'POST /api/intakes/check': { path: '/api/intakes/check', input: { name: 'x', text: 'Customer\nHale' }, status: 200 },
    'POST /api/intakes': {
      path: '/api/intakes',
      input: { id: uuidv7(), name: 'x', text: 'Customer\nHale', columns: ['site'], order: 'day-first' },
      status: 200,
    },
    'GET /api/intakes/{id}': { path: `/api/intakes/${theirs.factId}`, status: 404 },
    'POST /api/intakes/{id}/stop': { path: `/api/intakes/${theirs.factId}/stop`, status: 404 },
    'POST /api/intakes/{id}/undo': { path: `/api/intakes/${theirs.visitId}/undo`, status: 404 },
    'PUT /api/photos/{id}': {
      path: `/api/photos/${uuidv7()}?siteId=${siteId}&visitId=${visitId}&stageId=${theirs.stageId}&takenAt=2026-11-25T10:00:00.000Z`,
      input: 'no picture',
      status: 400,
    },
    'GET /api/photos/{id}': { path: `/api/photos/${theirs.stageId}`, status: 404 },
    'GET /api/sites/{id}/disinfection-setup': { path: `/api/sites/${siteId}/disinfection-setup`, status: 404 },
    'GET /api/disinfections': { path: '/api/disinfections', status: 200 },
    'GET /api/disinfections/{id}': { path: `/api/disinfections/${theirs.jobId}`, status: 404 },
    'GET /api/disinfections/{id}/certificate': { path: `/api/disinfections/${theirs.jobId}/certificate`, status: 404 },
    'GET /api/disinfections/{id}/laboratory': { path: `/api/disinfections/${theirs.jobId}/laboratory`, status: 404 },
    'GET /api/chlorine': { path: '/api/chlorine', status: 200 },
    'PUT /api/chlorine/{id}': {
      path: `/api/chlorine/${theirs.chlorineId}`,
      input: {
        version: 1,
        name: 'Taken over',
        form: 'solid',
        percent: 65,
        basis: null,
        densityKgL: null,
        strengthAs: 'available-chlorine',
        thickened: false,
        filledOn: null,
        storedAtC: 18,
      },
      status: 404,
    },
    'POST /api/laboratory/read': { path: '/api/laboratory/read', input: { text: 'bottle' }, status: 200 },
    'GET /api/schemas/disinfection-certificate': { path: '/api/schemas/disinfection-certificate', status: 200 },
    ...roundAttempts(theirs),
    'GET /api/today': { path: '/api/today', status: 200 },
    'GET /api/week': { path: '/api/week', status: 200 },
    'GET /api/stops/{id}': { path: `/api/stops/${stopId}`, status: 404 },
    'GET /api/sites': { path: '/api/sites', status: 200 },
    'GET /api/sites/{id}': { path: `/api/sites/${siteId}`, status: 404 },
    'GET /api/shelf': { path: '/api/shelf', status: 200 },
    'GET /api/book': { path: '/api/book', status: 200 },
    'GET /api/visits/{id}': { path: `/api/visits/${visitId}`, status: 200 },
    'POST /api/calc/{name}': { path: '/api/calc/readings.tds', input: [], status: 200 },
  }
}

test('every route, tried with another firm’s ids, gives nothing back and changes nothing', async () => {
  const documented = (await intruder.ask('GET', '/api/openapi.json')).body as {
    paths: Record<string, Record<string, unknown>>
  }
  const routes = Object.entries(documented.paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
  )
  const tries = attempts()
  expect(Object.keys(tries).sort()).toEqual(routes.sort())
  const before = await fingerprint()
  for (const [route, { path, input, status }] of Object.entries(tries)) {
    const answer = await intruder.ask(route.split(' ')[0] as string, path, input)
    expect({ route, status: answer.status }).toEqual({ route, status })
    // A visit that is not known answers as an empty one, and refused facts name the id they came with.
    const leaked = theirs.everyId.filter((id) => answer.text.includes(id))
    expect({ route, leaked }).toEqual({ route, leaked: [] })
  }
  expect(await fingerprint()).toBe(before)
})

test('facts about another firm’s site are refused, and so is correcting its facts', async () => {
  const foreign = { siteId: theirs.siteId, systemId: theirs.systemId, visitId: theirs.visitId }
  const mine = { siteId: own.siteId, systemId: own.systemId, visitId: uuidv7() }
  const before = await fingerprint()
  const answer = await intruder.ask(
    'POST',
    '/api/facts',
    batch(
      ticked(foreign, 'k'),
      begun(mine, { supersedes: theirs.factId }),
      fitted(mine, theirs.stageId),
      measured({ ...mine, systemId: theirs.systemId }, 5),
    ),
  )
  expect(answer.body.results.map(({ status, reason }: { status: string; reason: string }) => [status, reason])).toEqual([
    ['refused', 'unknown-site'],
    ['refused', 'unknown-reference'],
    ['refused', 'depends-on-refused'],
    ['refused', 'depends-on-refused'],
  ])
  expect(await fingerprint()).toBe(before)
})

test('the same fact id in two firms is two facts', async () => {
  const mine = { siteId: own.siteId, systemId: own.systemId, visitId: uuidv7() }
  const answer = await intruder.ask('POST', '/api/facts', batch(begun(mine, { id: theirs.factId })))
  expect(answer.body.results[0]).toMatchObject({ status: 'accepted' })
  expect(await peek(world.database, 'select firm_id from fact_receipt where id = $1', [theirs.factId])).toHaveLength(2)
})

test('one pool of connections serves two firms in turn without a row crossing over', async () => {
  const [tam, rival] = [await world.signIn('isla@fennick.example'), await world.signIn(own.email('owner'))]
  const rounds = Array.from({ length: 12 }, (_, index) => index)
  const answers = await Promise.all(rounds.flatMap(() => [tam.ask('GET', '/api/people'), rival.ask('GET', '/api/people')]))
  answers.forEach(({ body }, index) => {
    const emails = (body.people as { email: string }[]).map(({ email }) => email.split('@')[1])
    expect(new Set(emails)).toEqual(new Set([index % 2 === 0 ? 'fennick.example' : 'rival.example']))
  })
})

test('row-level security alone holds: a query without any firm sees nothing, one with a wrong WHERE sees its own', async () => {
  const count = async (table: string) => Number((await world.source.query(`select count(*) from ${table}`))[0].count)
  for (const table of TABLES) expect({ table, count: await count(table) }).toEqual({ table, count: 0 })
  const names = await world.deps.inFirm(own.firmId, (scope) => scope.manager.query('select name from site'))
  expect(names.map(({ name }: { name: string }) => name)).toEqual(expect.arrayContaining(['Site of rival']))
  expect(names.length).toBeLessThanOrEqual(3)
  await expect(
    world.deps.inFirm(own.firmId, (scope) =>
      scope.manager.query(
        'insert into firm (firm_id, name, time_zone, currency, gallon, schools, version) values ($1, $2, $3, $4, $5, $6, 1)',
        [uuidv7(), 'x', 'UTC', 'EUR', 'us', {}],
      ),
    ),
  ).rejects.toThrow('row-level security')
})
