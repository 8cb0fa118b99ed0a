import { certificateSchema } from '@evenround/contract/disinfections'
import type { JobPlan } from '@evenround/core/disinfection'
import { done, type Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let technician: Person
let owner: Person
let technicianId: string

beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'spring')
  technician = await world.signIn(firm.email('technician'))
  owner = await world.signIn(firm.email('owner'))
  technicianId = (await technician.ask('GET', '/api/me')).body.person.id
})
afterAll(() => world.close())

const HOUR_MS = 3_600_000
/** Noon of a Monday: flush and sample fall on days that are told apart. */
const START = Date.parse('2026-11-16T12:00:00.000Z')
const at = (hours: number): string => new Date(START + hours * HOUR_MS).toISOString()

const plan = (more: Partial<JobPlan> = {}): JobPlan => ({
  targets: ['plumbing'],
  reason: 'opened',
  note: '',
  systemIds: [firm.systemId],
  parts: [{ id: 'p', name: 'Pipes', side: 'cold', part: { kind: 'known', volumeL: 100 } }],
  product: { kind: 'liquid', percent: 5, basis: 'w/v', ageDays: 0, storedAtC: 15 },
  productName: 'Clear 5',
  jug: null,
  school: 'weak-long',
  targetMgL: 50,
  contactHours: 12,
  strengthReason: null,
  contactReason: null,
  demand: { ironMgL: 0, manganeseMgL: 0, sulphideMgL: 0, ammoniaNMgL: 0, otherMgL: 0 },
  pH: 7,
  waterC: 10,
  heater: 'none',
  outlets: [{ id: 'tap', name: 'Kitchen', side: 'cold', pipeL: 2, flowLMin: 8 }],
  flowLMin: 15,
  heelL: 0,
  discharge: 'sewer',
  neutraliser: 'thiosulfate',
  septic: false,
  supply: 'municipal',
  supplyMgL: 0.5,
  sample: true,
  repeat: 'yearly',
  technicianId,
  day: '2026-11-16',
  afterJob: null,
  ...more,
})

let seq = 0
function job() {
  const id = uuidv7()
  const fact = (hours: number, own: Record<string, unknown>): Fact => {
    seq += 1
    return {
      id: uuidv7(),
      at: at(hours),
      seq,
      siteId: firm.siteId,
      visitId: id,
      supersedes: null,
      voided: false,
      ...own,
    } as unknown as Fact
  }
  const strip = (hours: number, purpose: string, mgL: number) =>
    fact(hours, { kind: 'strip-read', place: 'tap', purpose, method: 'strip', range: 'high', mgL, dilution: 1 })
  return { id, fact, strip, planned: (more: Partial<JobPlan> = {}) => fact(-30, { kind: 'job-planned', plan: plan(more) }) }
}
const send = async (who: Person, ...facts: Fact[]): Promise<string[]> => {
  const answer = await who.ask('POST', '/api/facts', batch(...facts))
  return answer.body.results.map(({ status, reason, problems }: { status: string; reason?: string; problems?: { path: string }[] }) =>
    [status, reason, problems?.[0]?.path].filter(Boolean).join(' '),
  )
}
const daysOf = (jobId: string) =>
  peek<{ job_day: string; day: string; not_before: Date | null; not_after: Date | null; technician_id: string }>(
    world.database,
    'select job_day, day, not_before, not_after, technician_id from stop where job_id = $1 order by day',
    [jobId],
  )
const rowOf = async (jobId: string) =>
  (await owner.ask('GET', '/api/disinfections')).body.rows.find(({ id }: { id: string }) => id === jobId)

test('from plan to certificate: each day’s window follows the actual end of the one before', async () => {
  const { id, fact, strip, planned } = job()
  const hold = fact(-1, { kind: 'hold-begun', holdKind: 'do-not-use', until: null, text: 'strong chlorine' })
  expect(await send(technician, planned(), hold)).toEqual(['accepted', 'accepted'])
  expect(await daysOf(id)).toMatchObject([{ job_day: 'dose', day: '2026-11-16', technician_id: technicianId }])
  expect(await rowOf(id)).toMatchObject({ stand: 'planned', act: 'dose', siteName: 'Site of spring' })
  const today = await technician.ask('GET', '/api/today')
  expect(today.status).toBe(200)

  await send(technician, fact(-0.5, { kind: 'chlorine-dosed', stepKey: 'dose/pipes-in', amount: 100, unit: 'mL' }), strip(0, 'arrival', 50))
  // Twelve hours after noon is midnight: the flush is the next morning.
  expect((await daysOf(id))[1]).toMatchObject({ job_day: 'flush', day: '2026-11-17' })
  expect((await daysOf(id))[1]?.not_before?.toISOString()).toBe(at(12))
  await send(
    technician,
    strip(12.5, 'contact', 30),
    fact(13, { kind: 'step-done', stepKey: 'contact/end', verb: null, stageId: null, ...done() }),
  )
  expect(await rowOf(id)).toMatchObject({ stand: 'flushing' })

  // Nothing shows the chlorine out yet: whoever has no right may not lift the hold; with the strip they may.
  const lift = () => fact(14, { kind: 'hold-lifted', holdId: hold.id, proof: 'strips' })
  expect(await send(technician, lift())).toEqual(['refused hold-needs-right'])
  expect(await send(technician, strip(13.8, 'flush', 0.4), lift())).toEqual(['accepted', 'accepted'])
  const boil = fact(14, { kind: 'hold-begun', holdKind: 'boil-or-bottled', until: null, text: 'until the result' })
  await send(technician, boil, fact(14, { kind: 'job-day-ended', day: 'flush', outcome: 'done', note: '' }))
  // Sunday to Tuesday is its window; the laboratory takes bottles on Monday.
  const sampleDay = (await daysOf(id))[2]
  expect(sampleDay).toMatchObject({ job_day: 'sample', day: '2026-11-23' })
  expect([sampleDay?.not_before?.toISOString(), sampleDay?.not_after?.toISOString()]).toEqual([at(14 + 120), at(14 + 168)])

  const sample = fact(140, {
    kind: 'sample-taken',
    bottle: 'B-7',
    laboratory: 'Lab',
    place: 'Kitchen',
    dechlorinating: true,
    chlorineMgL: 0.4,
  })
  await send(technician, sample, fact(140, { kind: 'job-day-ended', day: 'sample', outcome: 'done', note: '' }))
  expect((await owner.ask('GET', `/api/disinfections/${id}/certificate`)).status).toBe(409)
  world.clock.now = new Date(START + 160 * HOUR_MS)
  const early = await technician.ask('GET', `/api/disinfections/${id}/laboratory`)
  expect(early.text.trim().split('\r\n')).toEqual(['bottle,report,date,total_coliform,e_coli,heterotrophic_count'])
  world.clock.now = new Date(START + 190 * HOUR_MS)
  expect((await technician.ask('GET', `/api/disinfections/${id}/laboratory`)).text).toContain('B-7,SWL-B-7,2026-11-24,absent,absent,2')
  const result = {
    kind: 'sample-result',
    sampleId: sample.id,
    totalColiform: 'absent',
    eColi: 'absent',
    others: [],
    reportNumber: 'R1',
    day: '2026-11-24',
  }
  const tooSoon = fact(190, { kind: 'hold-lifted', holdId: boil.id, proof: 'R1' })
  expect(await send(technician, tooSoon)).toEqual(['refused hold-needs-right'])
  expect(await send(technician, fact(190, result), fact(190, { kind: 'hold-lifted', holdId: boil.id, proof: 'R1' }))).toEqual([
    'accepted',
    'accepted',
  ])
  expect(await rowOf(id)).toMatchObject({ stand: 'clean', act: null, againOn: '2027-11-17' })
  const made = await owner.ask('GET', `/api/disinfections/${id}/certificate`)
  expect(certificateSchema.parse(made.body)).toMatchObject({
    verdict: 'clean',
    site: { name: 'Site of spring' },
    contact: { passed: true },
  })
  expect((await owner.ask('GET', '/api/schemas/disinfection-certificate')).body.properties).toHaveProperty('contact')
  const page = await owner.ask('GET', `/api/disinfections/${id}`)
  expect(page.body.holds).toEqual([])
  world.clock.now = new Date()
})

test('what may not begin is refused at its place, and leaves no job and no day behind', async () => {
  const one = job()
  expect(await send(technician, one.planned({ targetMgL: 250 }))).toEqual(['refused bad-form plan.strengthReason'])
  expect(await send(technician, one.planned({ contactHours: 2 }))).toEqual(['refused bad-form plan.contactHours'])
  expect(await send(technician, one.planned({ outlets: [] }))).toEqual(['refused bad-form plan'])
  expect(await send(technician, one.planned({ targets: ['drilled-well'], school: 'well-double' }))).toEqual([
    'refused bad-form plan.technicianId',
  ])
  expect(await send(technician, one.planned({ systemIds: [uuidv7()] }))).toEqual(['refused bad-form plan.systemIds'])
  expect(await daysOf(one.id)).toEqual([])
  expect(await rowOf(one.id)).toBeUndefined()
})

test('a plan that is changed moves its day; one that is given up leaves none', async () => {
  const { id, fact, planned } = job()
  const first = planned()
  await send(technician, first)
  await send(technician, fact(-20, { kind: 'job-planned', plan: plan({ day: '2026-11-18' }), supersedes: first.id }))
  expect(await daysOf(id)).toMatchObject([{ job_day: 'dose', day: '2026-11-18' }])
  await send(technician, fact(-10, { kind: 'job-day-ended', day: 'job', outcome: 'stopped', note: 'house sold' }))
  expect(await daysOf(id)).toEqual([])
  expect(await rowOf(id)).toMatchObject({ stand: 'stopped', act: null })
})

test('sent twice, or by two phones at once, a job stays one job with one day of each kind', async () => {
  const { id, strip, planned } = job()
  const first = planned()
  const facts = [first, strip(0, 'arrival', 50), strip(1, 'contact', 45), strip(2, 'contact', 44)]
  await send(technician, first)
  await Promise.all([send(technician, ...facts), send(owner, ...facts.slice().reverse())])
  expect((await daysOf(id)).map(({ job_day }) => job_day)).toEqual(['dose', 'flush'])
  expect((await owner.ask('GET', `/api/disinfections/${id}`)).body.facts).toHaveLength(4)
  expect(await rowOf(id)).toMatchObject({ stand: 'contact' })
})

test('a repeat knows how many before it were positive', async () => {
  const bad = job()
  const sample = bad.fact(140, { kind: 'sample-taken', bottle: 'P', laboratory: 'L', place: 'K', dechlorinating: true, chlorineMgL: 0 })
  const result = {
    kind: 'sample-result',
    sampleId: sample.id,
    totalColiform: 'present',
    eColi: 'absent',
    others: [],
    reportNumber: 'R',
    day: '2026-11-24',
  }
  await send(technician, bad.planned(), sample, bad.fact(190, result))
  expect(await rowOf(bad.id)).toMatchObject({ stand: 'positive', act: 'cause' })
  const again = job()
  await send(technician, again.planned({ afterJob: bad.id }))
  expect((await owner.ask('GET', `/api/disinfections/${again.id}`)).body.earlierPositives).toBe(1)
})

test('a repeat that is clean lifts what the job before it left open; before that nobody without the right may', async () => {
  const first = job()
  const boil = first.fact(14, { kind: 'hold-begun', holdKind: 'boil-or-bottled', until: null, text: 'until the result' })
  const taken = (one: ReturnType<typeof job>, hours: number) =>
    one.fact(hours, { kind: 'sample-taken', bottle: 'P', laboratory: 'L', place: 'K', dechlorinating: true, chlorineMgL: 0 })
  const found = (one: ReturnType<typeof job>, hours: number, sample: Fact, totalColiform: string) =>
    one.fact(hours, {
      kind: 'sample-result',
      sampleId: sample.id,
      totalColiform,
      eColi: 'absent',
      others: [],
      reportNumber: 'R',
      day: '2026-11-24',
    })
  const positive = taken(first, 140)
  await send(technician, first.planned(), boil, positive, found(first, 190, positive, 'present'))
  const repeat = job()
  await send(technician, repeat.planned({ afterJob: first.id }))
  const lift = () => repeat.fact(400, { kind: 'hold-lifted', holdId: boil.id, proof: 'laboratory report R, no coliforms' })
  expect(await send(technician, lift())).toEqual(['refused hold-needs-right'])
  const page = async (id: string) => (await technician.ask('GET', `/api/disinfections/${id}`)).body
  expect((await page(repeat.id)).earlierHolds).toEqual([boil.id])
  expect((await page(repeat.id)).holds.map(({ id }: { id: string }) => id)).toContain(boil.id)
  const clean = taken(repeat, 340)
  expect(await send(technician, clean, found(repeat, 390, clean, 'absent'), lift())).toEqual(['accepted', 'accepted', 'accepted'])
  for (const id of [first.id, repeat.id]) expect((await page(id)).holds.map(({ id: hold }: { id: string }) => hold)).not.toContain(boil.id)
})

test('E. coli without coliforms is no result, and the place of the mistake is named', async () => {
  const { fact, planned } = job()
  await send(technician, planned())
  const odd = fact(1, {
    kind: 'sample-result',
    sampleId: uuidv7(),
    totalColiform: 'absent',
    eColi: 'present',
    others: [],
    reportNumber: 'R',
    day: '2026-11-24',
  })
  expect(await send(technician, odd)).toEqual(['refused bad-form totalColiform'])
})

describe('chlorine on the shelf', () => {
  const JUG = {
    version: 0,
    name: 'Clear 6',
    form: 'liquid',
    percent: 6,
    basis: 'w/w',
    densityKgL: 1.08,
    strengthAs: 'available-chlorine',
    thickened: false,
    filledOn: '2026-08-01',
    storedAtC: 18,
  }
  test('added, edited by version, and offered to a plan', async () => {
    const id = uuidv7()
    expect((await technician.ask('PUT', `/api/chlorine/${id}`, JUG)).status).toBe(403)
    expect((await owner.ask('PUT', `/api/chlorine/${id}`, JUG)).body).toMatchObject({ version: 1, name: 'Clear 6' })
    expect((await owner.ask('PUT', `/api/chlorine/${id}`, { ...JUG, version: 1, percent: 5.5 })).body).toMatchObject({
      version: 2,
      percent: 5.5,
    })
    expect((await owner.ask('PUT', `/api/chlorine/${id}`, { ...JUG, version: 1 })).status).toBe(409)
    const setup = await technician.ask('GET', `/api/sites/${firm.siteId}/disinfection-setup`)
    expect(setup.body.products).toMatchObject([{ id, percent: 5.5 }])
    expect(setup.body.people.every(({ wells }: { wells: boolean }) => !wells)).toBe(true)
  })
  test('a strength by weight wants a density, a liquid its basis', async () => {
    const bad = async (more: object) => (await owner.ask('PUT', `/api/chlorine/${uuidv7()}`, { ...JUG, ...more })).body.error.fields[0].path
    expect([await bad({ densityKgL: null }), await bad({ basis: null })]).toEqual(['densityKgL', 'basis'])
  })
})
