import { jsonLog } from './log'

test('one JSON object a line: when, how grave, what, and what belongs to it', () => {
  const lines: string[] = []
  const log = jsonLog({ write: (line) => void lines.push(line) }, () => new Date('2026-11-25T10:00:00Z'))
  log('info', 'listening', { port: 3000 })
  log('error', 'database\nlost')
  expect(lines.every((line) => line.endsWith('}\n') && line.trim().split('\n').length === 1)).toBe(true)
  expect(lines.map((line) => JSON.parse(line))).toEqual([
    { level: 'info', at: '2026-11-25T10:00:00.000Z', event: 'listening', port: 3000 },
    { level: 'error', at: '2026-11-25T10:00:00.000Z', event: 'database\nlost' },
  ])
})
