import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { archiving } from './own.mjs'
import { opened, readKey, readPlace, sealed, writePlace } from './place.mjs'
import { keepBackedUp } from './schedule.mjs'
import { kindFor } from './take.mjs'

let home = ''
beforeEach(() => {
  home = mkdtempSync(join(tmpdir(), 'even-round-place-'))
})
afterEach(() => rmSync(home, { recursive: true, force: true }))

const KEY = '23456-789AB-CDEFG-HJKMN-PQRST-VWXYZ'
const DAY = 86_400_000

test('the key is made once, told once, and stays the same over every start', () => {
  const where = { home, user: null, port: 5000, socket: '/run/a' }
  const first = writePlace(where)
  const again = writePlace({ ...where, port: 5001, socket: '/run/b' })
  expect(first.madeKey).toMatch(/^[2-9A-Z]{5}(-[2-9A-Z]{5}){5}$/)
  expect(again.madeKey).toBe(null)
  expect(readPlace(again.config)).toMatchObject({ key: first.madeKey, port: '5001', socket: '/run/b', pg: join(home, 'pg') })
})

test('a key is read as people type it, and what is none is refused', () => {
  expect(readKey(' 23456 789ab cdefg hjkmn pqrst vwxyz\n')).toBe(KEY)
  for (const wrong of ['', '23456-789AB', `${KEY}2`, KEY.replace('2', 'O')]) expect(() => readKey(wrong)).toThrow(/no backup key/)
})

test('what is sealed opens under its key alone', () => {
  const seal = sealed('the secret', KEY)
  expect(seal.includes('the secret')).toBe(false)
  expect(opened(seal, KEY)).toBe('the secret')
  expect(() => opened(seal, KEY.replace('2', '3'))).toThrow('The key does not open these backups.')
})

test('a full one at first, after a week, and when it is asked for', () => {
  const now = 100 * DAY
  const full = (days) => ({ kind: 'full', endedAt: new Date(now - days * DAY) })
  const small = { kind: 'incremental', endedAt: new Date(now - DAY) }
  expect(kindFor({ full: false, backups: [], now })).toBe('full')
  expect(kindFor({ full: false, backups: [full(6.9), small], now })).toBe('incremental')
  expect(kindFor({ full: false, backups: [full(7), small], now })).toBe('full')
  expect(kindFor({ full: true, backups: [full(1)], now })).toBe('full')
})

test('a path with blanks and quotation marks stays one word of the command that hands the log on', () => {
  const [, command] = archiving("/a folder/o'clock/pgbackrest.conf")
  expect(command).toContain(`'--config=/a folder/o'\\''clock/pgbackrest.conf'`)
  expect(command.endsWith('"%p"')).toBe(true)
})

test('what fails is told once for each reason, and that it is good again', async () => {
  const told = []
  const says = join(home, 'says')
  const turn = join(home, 'turn')
  writeFileSync(turn, 'no room')
  const script = `const fs = require('node:fs'); const said = fs.readFileSync(${JSON.stringify(turn)}, 'utf8'); fs.appendFileSync(${JSON.stringify(says)}, said + ';'); if (said !== 'good') { console.error(said); process.exit(1) }`
  const turns = () => (existsSync(says) ? readFileSync(says, 'utf8').split(';').length - 1 : 0)
  const until = async (there) => {
    while (!there()) await new Promise((resolve) => setTimeout(resolve, 20))
  }
  const kept = keepBackedUp({
    onLine: () => undefined,
    tell: (text) => told.push(text),
    everyMs: 50,
    command: [process.execPath, '-e', script],
  })
  await until(() => turns() >= 3)
  writeFileSync(turn, 'good')
  await until(() => told.length >= 2)
  await kept.stop()
  expect(told).toEqual(['The backup failed: no room', 'The backup is good again.'])
})
