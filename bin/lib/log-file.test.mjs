import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { logFile } from './log-file.mjs'

const folder = mkdtempSync(join(tmpdir(), 'even-round-log-'))
afterAll(() => rmSync(folder, { recursive: true }))

test('lines are kept in order over a few files, the oldest go, and only their owner reads them', () => {
  const file = join(folder, 'logs/server.log')
  const log = logFile(file, { mostBytes: 20, kept: 2 })
  for (let index = 10; index < 20; index++) log(`line ${index}`)
  expect(readdirSync(join(folder, 'logs')).sort()).toEqual(['server.log', 'server.log.1', 'server.log.2'])
  expect(['.2', '.1', ''].map((end) => readFileSync(`${file}${end}`, 'utf8')).join('')).toBe(
    'line 14\nline 15\nline 16\nline 17\nline 18\nline 19\n',
  )
  expect(statSync(file).mode & 0o077).toBe(0)
})

test('it goes on where an earlier run ended', () => {
  const file = join(folder, 'again.log')
  logFile(file)('one')
  logFile(file)('two')
  expect(readFileSync(file, 'utf8')).toBe('one\ntwo\n')
})
