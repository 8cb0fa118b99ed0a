import fc from 'fast-check'
import {
  chose,
  done,
  effectiveFacts,
  type Fact,
  markText,
  remainingSeconds,
  resultWords,
  stepOfKey,
  strictestHold,
  upgradeFact,
  visitState,
} from '.'

const base = (id: string, minute: number, more: Partial<Fact> = {}) => ({
  id,
  at: `2026-11-25T09:${String(minute).padStart(2, '0')}:00.000Z`,
  seq: minute,
  siteId: 'site',
  visitId: 'visit',
  supersedes: null,
  voided: false,
  ...more,
})
const step = (id: string, minute: number, stepKey: string, more: Partial<Fact> = {}): Fact =>
  ({ ...base(id, minute, more), kind: 'step-done', stepKey, verb: null, stageId: null, ...done() }) as Fact
const removed = (id: string, minute: number, found: string, more: Partial<Fact> = {}): Fact =>
  ({ ...base(id, minute, more), kind: 'part-removed', stageId: 's1', found, dirtPast: null }) as Fact

describe('what counts', () => {
  test('a corrected fact gives way, a voided one leaves nothing', () => {
    expect(effectiveFacts([removed('a', 1, 'light'), removed('b', 2, 'heavy', { supersedes: 'a' })]).facts.map(({ id }) => id)).toEqual([
      'b',
    ])
    expect(effectiveFacts([step('a', 1, 'k'), step('b', 2, 'k', { supersedes: 'a', voided: true })]).facts).toEqual([])
  })
  test('two corrections of one fact are a conflict, and both stand', () => {
    const { facts, conflicts } = effectiveFacts([
      removed('a', 1, 'light'),
      removed('b', 2, 'heavy', { supersedes: 'a' }),
      removed('c', 3, 'spent', { supersedes: 'a' }),
    ])
    expect(conflicts).toEqual(['a'])
    expect(facts.map(({ id }) => id)).toEqual(['b', 'c'])
  })
})

describe('a visit from its facts', () => {
  const facts: Fact[] = [
    { ...base('begun', 0), kind: 'visit-begun', stopId: null, systemId: 'sys', trainVersion: 1, engineVersion: 1, tasks: [] } as Fact,
    step('s1', 1, 'isolate/close:v'),
    step('s2', 2, 'isolate/close:v'),
    step('s3', 3, 'isolate/relieve:tap'),
    step('s4', 4, 'isolate/relieve:tap', { supersedes: 's3', voided: true }),
    removed('r1', 5, 'light'),
    removed('r2', 6, 'heavy', { supersedes: 'r1' }),
  ]
  test('ticks are a union, taking back unticks, corrections win', () => {
    const state = visitState(facts)
    expect([...state.done.keys()]).toEqual(['isolate/close:v'])
    expect(state.done.get('isolate/close:v')).toBe('s1')
    expect(state.removed.get('s1')?.found).toBe('heavy')
    expect(state.begun?.id).toBe('begun')
    expect(state.finished).toBeNull()
  })
  test('neither order nor repeats change it', () => {
    const plain = JSON.stringify([...visitState(facts).done, ...visitState(facts).removed])
    fc.assert(
      fc.property(fc.shuffledSubarray(facts, { minLength: facts.length }), fc.subarray(facts), (shuffled, again) => {
        const state = visitState([...shuffled, ...again])
        expect(JSON.stringify([...state.done, ...state.removed])).toBe(plain)
      }),
    )
  })
})

describe('a block ticked at once', () => {
  const block = (id: string, minute: number, keys: string[], more: Partial<Fact> = {}): Fact =>
    ({
      ...base(id, minute, more),
      kind: 'block-done',
      block: 'Housing 1',
      steps: keys.map((stepKey) => ({ stepKey, verb: 'loosen', stageId: null })),
    }) as Fact
  const ticked = (...facts: Fact[]) => [...visitState(facts).done.keys()]

  test('ticks each of its steps, in their order', () => {
    expect(ticked(step('a', 1, 'k'), block('b', 2, ['m', 'l']), step('c', 3, 'n'))).toEqual(['k', 'm', 'l', 'n'])
    expect(visitState([block('b', 2, ['m'])]).results.get('m')).toEqual(done())
  })
  test('with one step taken back the others stand where they stood', () => {
    const less = block('d', 9, ['l'], { supersedes: 'b' })
    expect(ticked(step('a', 1, 'k'), block('b', 2, ['m', 'l']), step('c', 3, 'n'), less)).toEqual(['k', 'l', 'n'])
    expect(ticked(step('a', 1, 'k'), block('b', 2, ['m']), block('d', 9, ['m'], { supersedes: 'b', voided: true }))).toEqual(['k'])
  })
  test('a step that another phone ticked too stays ticked', () => {
    const gone = block('d', 9, ['l'], { supersedes: 'b', voided: true })
    expect(ticked(block('b', 2, ['l']), step('c', 3, 'l'), gone)).toEqual(['l'])
  })
  test('corrections that name each other do not hang it', () => {
    expect(ticked(block('a', 1, ['k'], { supersedes: 'b' }), block('b', 2, ['l'], { supersedes: 'a' }))).toEqual([])
  })
})

test('a timer is exact over any pause and never negative', () => {
  const timer = { at: '2026-11-25T09:00:00.000Z', seconds: 600 }
  expect(remainingSeconds(timer, '2026-11-25T09:00:00.000Z')).toBe(600)
  expect(remainingSeconds(timer, '2026-11-25T09:07:30.000Z')).toBe(150)
  expect(remainingSeconds(timer, '2026-11-26T09:00:00.000Z')).toBe(0)
  expect(remainingSeconds(timer, '2026-11-25T08:59:00.000Z')).toBe(600)
})

test('the strictest hold is shown; ended ones are not, safety ones have no end', () => {
  const now = '2026-11-25T12:00:00.000Z'
  const hold = (holdKind: 'ice' | 'first-tank' | 'boil-or-bottled', until: string | null) => ({ holdKind, until })
  expect(strictestHold([hold('ice', '2026-11-26T00:00:00.000Z'), hold('boil-or-bottled', null)], now)?.holdKind).toBe('boil-or-bottled')
  expect(strictestHold([hold('first-tank', now), hold('ice', '2026-11-25T12:00:01.000Z')], now)?.holdKind).toBe('ice')
  expect(strictestHold([hold('ice', '2026-11-25T11:00:00.000Z')], now)).toBeNull()
})

test('the mark is short enough for a wet cartridge', () => {
  expect(markText({ position: 2, partNumber: 'BRK-CB-20', day: '2026-03-06', person: 'Tam Orrin' })).toBe('2 · BRK-CB-20 · 06/03/26 · TO')
})

test('answers and surprises are kept by step, oldest first; one taken back is as if never said', () => {
  const answer = { ...step('a1', 1, 'change-s1/ask:s1'), ...chose('no') } as Fact
  const surprise = {
    ...base('x1', 2),
    kind: 'step-surprise',
    stepKey: 'isolate/close:v',
    surprise: 'will-not-close',
    stageId: null,
  } as Fact
  const state = visitState([surprise, answer])
  expect([...state.answers]).toEqual([
    ['change-s1/ask:s1', 'no'],
    ['isolate/close:v', 'will-not-close'],
  ])
  expect(state.surprises.get('isolate/close:v')?.id).toBe('x1')
  const back = {
    ...base('x2', 3, { supersedes: 'x1', voided: true }),
    kind: 'step-surprise',
    stepKey: 'isolate/close:v',
    surprise: 'will-not-close',
    stageId: null,
  } as Fact
  expect([...visitState([surprise, answer, back]).answers.keys()]).toEqual(['change-s1/ask:s1'])
})

test('a hold that was lifted is known by its id', () => {
  const lift = { ...base('l', 4), kind: 'hold-lifted', holdId: 'h', proof: 'strip at zero' } as Fact
  expect([...visitState([lift]).lifted]).toEqual(['h'])
})

describe('what a client of the first protocol sends', () => {
  const STAGE = '1b6815af-4a34-5722-a586-81e6589bcf4b'
  const tick = (answer: string | null, stepKey = 'isolate/close:v') => ({ ...base('t', 1), kind: 'step-done', stepKey, answer })
  test.each([
    [null, { outcome: 'done', choice: null, note: null }],
    ['yes', { outcome: 'answered', choice: 'yes', note: null }],
    ['hard-surface', { outcome: 'answered', choice: 'hard-surface', note: null }],
    ['carried away', { outcome: 'answered', choice: 'carried-away', note: null }],
    ['left out: no wrench fits', { outcome: 'left-out', choice: null, note: 'no wrench fits' }],
    ['left: capped', { outcome: 'left-out', choice: null, note: 'capped' }],
    ['stopped with 3:12 left', { outcome: 'early', choice: null, note: '3:12' }],
    ['They had to have water, at once', { outcome: 'done', choice: null, note: 'They had to have water, at once' }],
  ])('a tick that answers %s', (answer, result) => {
    expect(upgradeFact(tick(answer), 1)).toMatchObject(result)
    expect(upgradeFact(tick(answer), 1)).not.toHaveProperty('answer')
  })
  test('a step’s key says its verb and the stage it is about', () => {
    expect(stepOfKey(`soak/soak:${STAGE}`)).toEqual({ verb: 'soak', stageId: STAGE })
    expect(stepOfKey(`flush-1/flush:${STAGE}+${STAGE}>tap`)).toEqual({ verb: 'flush', stageId: STAGE })
    expect(stepOfKey(`change/fit:${STAGE}.seal`)).toEqual({ verb: 'fit', stageId: STAGE })
    expect(stepOfKey('isolate/close:feed-valve')).toEqual({ verb: 'close', stageId: null })
    expect(stepOfKey('spread/rinse')).toEqual({ verb: null, stageId: null })
  })
  test('a surprise has its stage apart; what is no such thing is left to be judged', () => {
    const surprise = (answer: unknown) => ({ ...base('x', 2), kind: 'step-surprise', stepKey: 'k', answer })
    expect(upgradeFact(surprise(`still-leaking:${STAGE}`), 1)).toMatchObject({ surprise: 'still-leaking', stageId: STAGE })
    expect(upgradeFact(surprise('will-not-close'), 1)).toMatchObject({ surprise: 'will-not-close', stageId: null })
    for (const odd of [surprise('nobody knows'), surprise(7), null, 'text', { kind: 'step-done', outcome: 'done' }])
      expect(upgradeFact(odd, 1)).toBe(odd)
  })
  test('today’s facts and other kinds come back as they are', () => {
    const today = step('a', 1, 'k')
    expect(upgradeFact(today, 1)).toBe(today)
    expect(upgradeFact(tick('yes'), 2)).toEqual(tick('yes'))
  })
  test('a result reads as it was said', () => {
    const words = (answer: string) => resultWords(upgradeFact(tick(answer), 1) as never)
    expect([words('yes'), words('left out: no wrench'), words('stopped with 3:12 left')]).toEqual([
      'yes',
      'left out: no wrench',
      'stopped with 3:12 left',
    ])
    expect(resultWords(done())).toBeNull()
  })
})
