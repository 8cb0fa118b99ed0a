import { CALC, calcJsonSchema, runCalc } from './calc'

const tdsInput = { display: 412, multiplier: 1, quantity: 'ec', scale: 0.64, compensated: false, temperatureC: 11 }
const problems = (name: string, input: unknown): string[] => {
  const answer = runCalc(name, input)
  return answer.ok ? [] : answer.problems.map(({ path, message }) => `${path}: ${message}`)
}

test('the published example, with its default coefficient left out', () => {
  const answer = runCalc('readings.tds', tdsInput)
  expect(answer).toMatchObject({
    ok: true,
    output: { ec25UsCm: expect.closeTo(572.2222, 4), tdsMgL: expect.closeTo(366.2222, 4), flags: [] },
  })
})

test('an array of inputs gives an array of outputs, in order; an empty one an empty one', () => {
  const answer = runCalc('readings.tds', [tdsInput, { ...tdsInput, display: 824 }])
  const [first, second] = (answer.ok ? answer.output : []) as { tdsMgL: number }[]
  expect(second?.tdsMgL).toBeCloseTo((first?.tdsMgL ?? 0) * 2, 9)
  expect(runCalc('readings.tds', [])).toEqual({ ok: true, output: [] })
})

test('every problem at once, with its path and what was expected', () => {
  expect(
    problems('readings.tds', { display: '412', multiplier: 2, quantity: 'ec', scale: 0.6, compensated: false, temperatureC: 101 }),
  ).toEqual([
    'display: expected a value of type number, got "412"',
    'multiplier: expected 1 | 10, got 2',
    'scale: expected 0.5 | 0.64 | 0.7, got 0.6',
    'temperatureC: expected a number at most 100, got 101',
  ])
})

test('in a batch the path says which input; nothing is computed when one is bad', () => {
  expect(problems('readings.resin', [{}, 5])).toEqual(
    expect.arrayContaining(['[0].inTdsMgL: expected a value of type number, got nothing', '[1]: expected a value of type object, got 5']),
  )
})

test('the kind of a school is a closed list, and its own fields are wanted', () => {
  expect(problems('readings.membrane', { feedTdsMgL: 1, productTdsMgL: 1, school: { kind: 'smell' } })).toEqual([
    'school.kind: expected "fixed-floor" | "own-baseline", got "smell"',
  ])
  expect(problems('readings.membrane', { feedTdsMgL: 1, productTdsMgL: 1, school: { kind: 'own-baseline' } })).toEqual([
    'school.baselinePassage: expected a value of type number, got nothing',
  ])
})

test('a misspelt field is said and not silently dropped', () => {
  expect(problems('readings.tds', { ...tdsInput, siteHistory: [1] })).toEqual([
    'siteHistory: expected no such field: there is none of this name',
  ])
})

test('a coefficient that turns the correction round is refused at its place', () => {
  expect(problems('readings.tds', { ...tdsInput, temperatureC: -2, coefficientPerC: 0.05 })[0]).toMatch(
    /^coefficientPerC: expected a coefficient that keeps/,
  )
})

test.each(Object.keys(CALC))('%s publishes a JSON Schema of its input', (name) => {
  expect(calcJsonSchema(name)).toMatchObject({ type: 'object', additionalProperties: false, required: expect.any(Array) })
})

test('an unknown name is a fault of the caller', () => {
  expect(() => runCalc('readings.nope', {})).toThrow('no such function: readings.nope')
  expect(() => runCalc('toString', {})).toThrow('no such function')
})

describe('wear.forecast', () => {
  const input = {
    today: '2026-03-01',
    stage: { media: 'fluoride-media', fittedOn: '2026-03-01', rated: { days: 365 }, site: { people: 3, source: 'municipal' } },
    readings: [],
    past: [],
    school: 'earliest',
  }
  test('a part of rated life at a reference site: the median is the rated life', () => {
    const answer = runCalc('wear.forecast', input)
    // 365 days after 1 March 2026 is 1 March 2027; the quantile falls within a day of it.
    expect(answer).toMatchObject({ ok: true, output: { governing: 'calendar', remaining: expect.closeTo(1, 6), narrowing: [] } })
    const { p50 } = (answer.ok ? answer.output : {}) as { p50: string }
    expect(['2027-02-28', '2027-03-01', '2027-03-02']).toContain(p50)
  })
  test('what would narrow it comes with it', () => {
    const answer = runCalc('wear.forecast', {
      ...input,
      today: '2026-06-01',
      school: 'usage',
      stage: { ...input.stage, rated: { litres: 3000 } },
    })
    expect(answer).toMatchObject({ ok: true, output: { governing: 'throughput', narrowing: [{ reading: 'counter' }] } })
  })
  test('bad input is named where it stands, all of it at once', () => {
    const bad = {
      ...input,
      today: '2026-02-30',
      stage: { ...input.stage, rated: {}, limits: { passageRatio: 1 } },
      readings: [{ on: '2026-03-02', counterL: -1, counter: 5 }],
      past: [{ fittedOn: '2026-03-01', removedOn: '2026-02-01', found: 'light' }],
      school: 'by feel',
    }
    expect(problems('wear.forecast', bad).map((line) => line.split(':')[0])).toEqual(
      expect.arrayContaining(['today', 'stage.rated', 'stage.limits.passageRatio', 'readings[0].counterL', 'past[0].removedOn', 'school']),
    )
    expect(problems('wear.forecast', { ...input, today: '2026-02-01' })).toEqual(['today: expected a day on or after stage.fittedOn'])
  })
  test('the same input, the same answer', () => {
    expect(runCalc('wear.forecast', input)).toEqual(runCalc('wear.forecast', input))
  })
})

const HOUSING = {
  train: {
    nodes: [
      { id: 'main', kind: 'source' },
      { id: 'feed', kind: 'valve', turns: 'quarter' },
      { id: 'h1', kind: 'stage', media: 'sediment', housing: 'sump-small', position: 1, inletConfirmed: true },
      { id: 'tap', kind: 'outlet', use: 'drinking' },
    ],
    pipes: [
      { from: 'main', to: 'feed' },
      { from: 'feed', to: 'h1' },
      { from: 'h1', to: 'tap' },
    ],
  },
  tasks: [{ stage: 'h1', action: 'change' }],
  schools: { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' },
}

test('a sheet is judged by rule and step, however wrong it is', () => {
  const steps = [{ n: 1, key: 'rash', verb: 'open-housing', at: ['h1'], text: 'x', why: 'y', minutes: 1, tools: [], consumables: [] }]
  const answer = runCalc('train.check', { ...HOUSING, visits: [{ minGapHoursBefore: 0, steps }] })
  const { findings, end } = (answer.ok ? answer.output : {}) as {
    findings: { rule: string; step: string | null }[]
    end: { valves: object }
  }
  expect(findings.filter(({ step }) => step === 'rash').map(({ rule }) => rule)).toEqual(['pressure', 'catch', 'pressure'])
  expect(end.valves).toEqual({ feed: 'open' })
  expect(runCalc('train.check', { ...HOUSING, visits: [] })).toMatchObject({ ok: true })
})

test('a train that does not hang together is refused at its place', () => {
  const train = { ...HOUSING.train, pipes: [...HOUSING.train.pipes, { from: 'h1', to: 'nowhere' }] }
  expect(problems('train.check', { ...HOUSING, train, tasks: [{ stage: 'tap', action: 'change' }], visits: [] })).toEqual(
    expect.arrayContaining(['train.pipes[3].to: expected the id of a node, got nowhere']),
  )
  expect(problems('train.check', { ...HOUSING, tasks: [{ stage: 'tap', action: 'change' }], visits: [] })).toEqual([
    'tasks[0].stage: expected the id of a stage, got tap',
  ])
})

describe('train.sheet', () => {
  type Made = { visits: { minGapHoursBefore: number; steps: { key: string; verb: string; at: string[]; n: number }[] }[]; holds: unknown[] }
  const made = (input: object): Made => {
    const answer = runCalc('train.sheet', input)
    if (!answer.ok) throw new Error(JSON.stringify(answer.problems))
    return answer.output as Made
  }

  test('its sheet is good by train.check, fed back as it came', () => {
    const { visits, holds } = made(HOUSING)
    expect(visits[0]?.steps.map(({ n }) => n)).toEqual(visits[0]?.steps.map((_, index) => index + 1))
    expect(runCalc('train.check', { ...HOUSING, visits, holds })).toMatchObject({ ok: true, output: { findings: [] } })
  })

  test('it goes on from what is done and answered', () => {
    const train = {
      ...HOUSING.train,
      nodes: HOUSING.train.nodes.map((node) => (node.id === 'h1' ? { ...node, inletConfirmed: false } : node)),
    }
    const before = made({ ...HOUSING, train }).visits[0]?.steps ?? []
    const ask = before.find(({ verb }) => verb === 'ask')?.key ?? ''
    const done = before.slice(0, before.findIndex(({ key }) => key === ask) + 1).map(({ key }) => key)
    const after = made({ ...HOUSING, train, from: { done, answers: { [ask]: false } } }).visits[0]?.steps ?? []
    expect(after.slice(0, done.length).map(({ key }) => key)).toEqual(done)
    expect(after.filter(({ verb, at }) => verb === 'close' && at[0] !== 'tap').map(({ at }) => at[0])).toEqual(['feed', 'main'])
  })

  test('what cannot be done to a stage, is named twice, or cannot be isolated is refused at its place', () => {
    expect(problems('train.sheet', { ...HOUSING, tasks: [{ stage: 'h1', action: 'wash' }] })).toEqual([
      'tasks[0].action: expected change for sediment, got wash',
    ])
    expect(problems('train.sheet', { ...HOUSING, tasks: [...HOUSING.tasks, ...HOUSING.tasks] })).toEqual([
      'tasks[1].stage: expected each stage once, got h1 twice',
    ])
    expect(problems('train.sheet', { ...HOUSING, tasks: [{ stage: 'feed', action: 'change' }] })).toEqual([
      'tasks[0].stage: expected the id of a stage, got feed',
    ])
    const open = {
      nodes: HOUSING.train.nodes.filter(({ id }) => id !== 'feed'),
      pipes: [
        { from: 'main', to: 'h1' },
        { from: 'h1', to: 'tap' },
      ],
    }
    expect(problems('train.sheet', { ...HOUSING, train: open })).toEqual([
      expect.stringMatching(/^train\.nodes: This train shows no valve/),
    ])
    const dry = { nodes: HOUSING.train.nodes.filter(({ id }) => id !== 'tap'), pipes: HOUSING.train.pipes.slice(0, 2) }
    expect(problems('train.sheet', { ...HOUSING, train: dry })).toEqual([expect.stringMatching(/^train\.nodes: This train shows no tap/)])
  })
})

describe('a kind of the firm’s own', () => {
  const candle = {
    id: 'own:candle',
    name: 'ceramic candle',
    causes: ['throughput'],
    ratedLitres: 3000,
    soakHours: 0.5,
    flush: { litres: 6, minutes: 12, alone: true },
  }
  const withCandle = {
    ...HOUSING,
    train: {
      ...HOUSING.train,
      nodes: HOUSING.train.nodes.map((node) => (node.kind === 'stage' ? { ...node, media: 'own:candle' } : node)),
    },
  }
  const sheetOf = (input: object) => {
    const answer = runCalc('train.sheet', input)
    if (!answer.ok) throw new Error(JSON.stringify(answer.problems))
    return answer.output as { visits: { steps: { verb: string; minutes: number; text: string }[] }[]; holds: unknown[] }
  }

  test.each([
    ['beside the tasks', { ...withCandle, kinds: [candle] }],
    ['in the train', { ...withCandle, train: { ...withCandle.train, kinds: [candle] } }],
  ])('its profile %s makes its sheet, in which the checker finds nothing', (_, input) => {
    const made = sheetOf(input)
    const steps = made.visits.flatMap((visit) => visit.steps)
    expect(steps.find(({ verb }) => verb === 'flush')).toMatchObject({ minutes: 12, litres: 6 })
    expect(steps.some(({ verb }) => verb === 'soak')).toBe(true)
    expect(runCalc('train.check', { ...input, visits: made.visits, holds: made.holds })).toMatchObject({
      ok: true,
      output: { findings: [] },
    })
  })

  test('of one that nobody described the careful reading holds: flushed alone, ten minutes', () => {
    const steps = sheetOf(withCandle).visits.flatMap((visit) => visit.steps)
    expect(steps.find(({ verb }) => verb === 'flush')).toMatchObject({ minutes: 10 })
  })

  test('it is forecast by the causes that were said of it', () => {
    const stage = {
      media: 'own:candle',
      fittedOn: '2026-01-01',
      rated: { days: 100, litres: 3000 },
      site: { people: 3, source: 'municipal', litresPerDay: 10 },
    }
    const input = { today: '2026-01-01', stage, readings: [], past: [], school: 'earliest', kinds: [candle] }
    const answer = runCalc('wear.forecast', input)
    const output = (answer.ok ? answer.output : {}) as { governing: string; causes: { cause: string }[]; p50: string }
    // 3,000 L at ten a day last 300 days; the 100 days by the label are not what ends it.
    expect(output.causes.map(({ cause }) => cause)).toEqual(['throughput'])
    const days = (Date.parse(output.p50) - Date.parse('2026-01-01')) / 86_400_000
    expect(days).toBeGreaterThan(270)
    expect(days).toBeLessThan(330)
  })
})

test('a figure without end is no answer: it is refused where it comes from', () => {
  const strips = [
    { minute: 0, mgL: 50 },
    { minute: 1e308, mgL: 40 },
  ]
  const far = { strips, targetMgL: 50, minimumHours: 12 }
  expect(runCalc('disinfection.contact', far)).toMatchObject({ ok: false, problems: [{ path: '$' }] })
  const near = { ...far, strips: [strips[0], { minute: 720, mgL: 40 }] }
  expect(runCalc('disinfection.contact', [near, far])).toMatchObject({ ok: false, problems: [{ path: '[1]' }] })
  expect(runCalc('disinfection.contact', near).ok).toBe(true)
})
