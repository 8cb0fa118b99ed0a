import type { JobPlan } from '../disinfection'
import { FAMILIES, familyTrain } from '../train'
import { protection } from '../train/protect'
import { type Guarded, jobFigures, jobSteps, schoolsFor, supplies } from '.'
import { WELL } from './fixture'

const plan = (more: Partial<JobPlan> = {}): JobPlan => ({ ...WELL, ...more })
const SCHOOLS = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' } as const
const guarded = (name: keyof typeof FAMILIES, heater: JobPlan['heater'] = 'none', own = false): Guarded => ({
  systemId: name,
  systemName: name,
  protection: protection(
    familyTrain(
      FAMILIES[name],
      FAMILIES[name].stages.map((_, index) => `s${index + 1}`),
    ),
    { schools: SCHOOLS, heater, own, contactHours: 12 },
  ),
})

describe('steps', () => {
  const steps = jobSteps(WELL, jobFigures(WELL), [guarded('ultraviolet'), guarded('reverse-osmosis-5')])
  const keys = steps.map(({ key }) => key)
  const spot = (key: string): number => keys.indexOf(key)

  test('keys are unique and phases in order', () => {
    expect(new Set(keys).size).toBe(keys.length)
    const order = ['ready', 'protect', 'dose', 'spread', 'dose', 'spread', 'flush', 'back']
    const seen = steps.map(({ phase }) => phase).filter((phase, index, all) => phase !== all[index - 1])
    expect(seen).toEqual(order)
  })
  test('protected before the dose; power off before the cap; the second dose before the hot taps; walls rinsed last', () => {
    expect(spot('protect/reverse-osmosis-5/protect/close:feed-valve')).toBeLessThan(spot('dose/well-mix'))
    expect(spot('dose/power-off')).toBeLessThan(spot('dose/cap'))
    expect(spot('dose/cap')).toBeLessThan(spot('dose/well-pour'))
    expect(spot('spread/out-near')).toBeLessThan(spot('dose/hot-pour'))
    expect(spot('dose/hot-pour')).toBeLessThan(spot('spread/out-hot'))
    expect(spot('spread/out-hot')).toBeLessThan(spot('spread/rinse'))
  })
  test('whenever the cap comes off the pump is off and locked first, and the well is closed before anybody leaves it', () => {
    const order = ['dose/power-off', 'dose/cap', 'dose/well-pour', 'dose/power-on', 'dose/well-round', 'dose/well-shut', 'spread/out-far']
    const again = ['spread/out-near', 'dose/hot-power-off', 'dose/hot-cap', 'dose/hot-pour', 'dose/hot-power-on', 'dose/hot-shut']
    const last = ['spread/out-hot', 'spread/rinse-open', 'spread/rinse', 'spread/rinse-close']
    const places = [...order, ...again, ...last].map(spot)
    expect(places.every((place) => place >= 0)).toBe(true)
    expect(places).toEqual([...places].sort((a, b) => a - b))
    for (const key of ['dose/power-off', 'dose/hot-power-off', 'spread/rinse-open'])
      expect(steps.find((step) => step.key === key)?.text).toMatch(/power off(,| and) locked/i)
    for (const key of ['dose/cap', 'dose/hot-cap', 'spread/rinse-open'])
      expect(steps.find((step) => step.key === key)?.caution).toMatch(/Never enter.*Never alone/)
  })
  test('bacteria or a flood: no stored water is called drinkable; a flood asks for chemicals before anybody is told to boil', () => {
    const said = (more: Partial<JobPlan>, chemicals?: boolean) => {
      const made = plan(more)
      const unit = {
        ...guarded('reverse-osmosis-5'),
        protection: protection(familyTrain(FAMILIES['reverse-osmosis-5'], ['s1', 's2', 's3', 's4', 's5']), {
          schools: SCHOOLS,
          heater: 'bypass',
          own: false,
          contactHours: 12,
          storedIsFit: made.reason === 'yearly',
        }),
      }
      return jobSteps(made, jobFigures(made), [unit], chemicals === undefined ? {} : { chemicals })
    }
    const words = (steps: ReturnType<typeof said>): string => steps.map(({ text, why }) => `${text} ${why}`).join(' ')
    expect(words(said({ reason: 'yearly' }))).toMatch(/tank still holds drinking water/)
    for (const reason of ['bacteria', 'flood'] as const) {
      expect(words(said({ reason }))).not.toMatch(/still holds drinking water|Stored drinking water/)
      expect(said({ reason }).find(({ key }) => key.endsWith('/tank-out'))?.text).toMatch(/to waste/)
    }
    const last = (steps: ReturnType<typeof said>) => steps.at(-1)
    expect(said({ reason: 'flood' }).some(({ key }) => key === 'ready/flood')).toBe(true)
    expect(last(said({ reason: 'flood' }))).toMatchObject({ hold: 'chemicals', text: expect.stringContaining('Boiling does not help') })
    expect(last(said({ reason: 'flood' }, false))).toMatchObject({ hold: 'boil-or-bottled' })
    expect(said({ reason: 'bacteria' }).some(({ key }) => key === 'ready/flood')).toBe(false)
  })
  test('the acid question says what stands on the van’s list', () => {
    const ask = (acidAt: string[]) => jobSteps(WELL, jobFigures(WELL), [], { acidAt }).find(({ key }) => key === 'ready/acid')?.text
    expect(ask(['Netherton'])).toMatch(/list has sleeve descaler today, for Netherton/)
    expect(ask([])).toMatch(/list has none/)
  })
  test('the heater nobody drew is taken off, and filled before it heats again', () => {
    expect(spot('protect/heater')).toBeGreaterThan(0)
    expect(spot('back/heater-fill')).toBeLessThan(spot('back/heater-on'))
  })
  test('every outlet that had the dose is cleared by its own strip', () => {
    for (const { id } of WELL.outlets) expect(spot(`flush/out-${id}`)).toBeGreaterThan(spot(`spread/out-${id}`))
  })
  test('a tank’s dose goes in with each quarter of the fill; a unit’s into its first housing', () => {
    const tank = plan({ targets: ['storage-tank'], school: 'weak-long', heater: 'none', heelL: 1 })
    const poured = jobSteps(tank, jobFigures(tank), []).filter(({ kind }) => kind === 'dose')
    expect(poured).toHaveLength(4)
    expect(poured.reduce((sum, { dose }) => sum + (dose?.amount ?? 0), 0)).toBeCloseTo(jobFigures(tank).totalAmount, 9)
    const unit = plan({ targets: ['drinking-unit'], school: 'weak-long', contactHours: 0.5, heater: 'none', sample: false })
    const own = jobSteps(unit, jobFigures(unit), [guarded('reverse-osmosis-5', 'none', true)])
    // Measured into the housing that stands open, with the feed shut; closed, and only then water again.
    const at = (ending: string): number => own.findIndex(({ key }) => key.endsWith(ending))
    const order = [
      '/close:feed-valve',
      '/take-out:s3',
      '/open-housing:s1',
      'dose/unit-in',
      '/close-housing:s1',
      '/open:feed-valve>half',
      'spread/out-far',
    ]
    expect(order.map(at)).toEqual(order.map(at).sort((a, b) => a - b))
    expect(order.map(at).every((place) => place >= 0)).toBe(true)
    expect(own.filter(({ kind }) => kind === 'part').map(({ stageId }) => stageId)).toEqual(['s1', 's2', 's3', 's4', 's5'])
    expect(
      own
        .filter(({ kind }) => kind === 'finding')
        .map(({ stageId }) => stageId)
        .sort(),
    ).toEqual(['s1', 's2', 's3', 's4', 's5'])
    expect(own.filter(({ text }) => text === 'Look before you throw it away').every(({ phase }) => phase === 'protect')).toBe(true)
    expect(own.some(({ key }) => key.includes('take-out:s4'))).toBe(true)
    expect(own.some(({ kind, phase }) => kind === 'hold' && phase === 'back')).toBe(false)
  })
  test('supplies hold both ranges of strips, new elements, and a quarter more product', () => {
    const list = supplies(WELL, jobFigures(WELL), [guarded('ultraviolet')])
    expect(list.map(({ id }) => id)).toEqual(['product', 'guard', 'strips', 'bucket', 'hose', 'parts', 'neutraliser', 'bottle'])
    expect(list[0]?.values?.amount?.value).toBeCloseTo(2 * 404.511 * 1.25, 2)
  })
  test('schools fit what is disinfected, the default first', () => {
    expect(schoolsFor(['drilled-well'])[0]).toBe('well-double')
    expect(schoolsFor(['plumbing'])[0]).toBe('weak-long')
    expect(schoolsFor(['plumbing'])).not.toContain('well-double')
  })
})
