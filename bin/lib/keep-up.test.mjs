import { keepUp } from './keep-up.mjs'

/** Something that runs until it is told to end, and a clock that goes by what is waited for. */
function world() {
  const told = []
  const waits = []
  let time = 0
  const runs = []
  const run = () => {
    let end = () => undefined
    const ended = new Promise((resolve) => {
      end = resolve
    })
    const one = { ended, end, stop: async () => end('stopped') }
    runs.push(one)
    return one
  }
  const wait = async (ms) => {
    waits.push(ms)
    time += ms
  }
  const turn = async () => {
    for (let turns = 0; turns < 20; turns++) await Promise.resolve()
  }
  return {
    told,
    waits,
    runs,
    run,
    turn,
    pass: (ms) => {
      time += ms
    },
    options: { name: 'The server', tell: (text) => told.push(text), now: () => time, wait },
  }
}

test('what ended by itself is said and started again, a little later each time', async () => {
  const { told, waits, runs, run, turn, options } = world()
  keepUp({ ...options, first: run(), again: async () => run() })
  runs[0].end(1)
  await turn()
  runs[1].end('SIGKILL')
  await turn()
  expect(waits).toEqual([1000, 2000])
  expect(runs).toHaveLength(3)
  expect(told).toEqual([
    'The server ended by itself (1). Starting it again in 1 s.',
    'The server is back.',
    'The server ended by itself (SIGKILL). Starting it again in 2 s.',
    'The server is back.',
  ])
})

test('what stayed up a while begins again with the shortest wait', async () => {
  const { waits, runs, run, turn, pass, options } = world()
  keepUp({ ...options, first: run(), again: async () => run() })
  for (let index = 0; index < 3; index++) {
    pass(120_000)
    runs[index].end(1)
    await turn()
  }
  expect(waits).toEqual([1000, 1000, 1000])
})

test('what never stays is given up with the last reason, also where it cannot be started', async () => {
  const { runs, run, options } = world()
  const first = run()
  const kept = keepUp({ ...options, first, again: () => Promise.reject(new Error('no room on the disk')) })
  runs[0].end(1)
  expect(await kept.gaveUp).toBe('The server ended 7 times in a row; the last time with no room on the disk.')
})

test('what is stopped stays down', async () => {
  const { told, runs, run, turn, options } = world()
  const kept = keepUp({ ...options, first: run(), again: async () => run() })
  await kept.stop()
  await turn()
  expect(await kept.gaveUp).toBe(null)
  expect([runs.length, told]).toEqual([1, []])
})
