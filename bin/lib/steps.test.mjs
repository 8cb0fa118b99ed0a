import { PlainError } from './postgres.mjs'
import { quietly, step } from './steps.mjs'

let said = ''
beforeEach(() => {
  said = ''
  jest.spyOn(process.stdout, 'write').mockImplementation((text) => {
    said += text
    return true
  })
})
afterEach(() => {
  jest.restoreAllMocks()
  jest.useRealTimers()
})

test('a step says that it begins, and how it ended', async () => {
  expect(await step('Packages', async () => ({ found: 3 }))).toEqual({ found: 3 })
  await step('PostgreSQL', () => ({ skipped: true }))
  expect(said).toMatch(/^ {2}Packages …\n {2}Packages: done, \d+\.\d s\n {2}PostgreSQL …\n {2}PostgreSQL: nothing to do, \d+\.\d s\n$/)
})

test('what takes long says how far it is, until it is over', async () => {
  jest.useFakeTimers()
  let end = () => undefined
  let there = 0
  const work = step(
    'Packages',
    () =>
      new Promise((resolve) => {
        end = resolve
      }),
    () => `${there} of 9 are there`,
  )
  there = 4
  jest.advanceTimersByTime(10_000)
  there = 7
  jest.advanceTimersByTime(10_000)
  end({})
  await work
  jest.advanceTimersByTime(60_000)
  expect(said.match(/\d of 9 are there/g)).toEqual(['4 of 9 are there', '7 of 9 are there'])
})

test('a step that fails says nothing more, and its error goes on', async () => {
  await expect(step('The app', () => Promise.reject(new Error('no disk')))).rejects.toThrow('no disk')
  expect(said).toBe('  The app …\n')
})

test('a command’s output is kept to itself where it went well', async () => {
  expect(await quietly(process.execPath, ['-e', 'console.log("built")'])).toBe('built\n')
  expect(said).toBe('')
})

test('a command that failed is told with what it said last', async () => {
  const failed = quietly(process.execPath, ['-e', 'console.error("no such module"); process.exit(3)'])
  await expect(failed).rejects.toThrow(PlainError)
  await expect(failed).rejects.toThrow(/ended with 3:\nno such module/)
  await expect(quietly('/no/such/program', [])).rejects.toThrow('ENOENT')
})
