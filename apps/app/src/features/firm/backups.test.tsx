import { backupWords } from './backups'

const NOW = Date.parse('2026-11-30T12:00:00Z')
const hoursAgo = (hours: number): string => new Date(NOW - hours * 3_600_000).toISOString()
const words = (lastGood: string | null, checked = true, failedSince: string | null = null) =>
  backupWords({ lastGood, checked, failedSince }, NOW, 'UTC')

test('a good one of today is said with its age, and whether it was restored to look', () => {
  expect(words(hoursAgo(9))).toEqual({
    text: 'The last good backup is 9 hours old (30 Nov 2026, 03:00); it was restored to see that all of the firm is in it.',
    bad: false,
  })
  expect(words(hoursAgo(1), false).text).toBe('The last good backup is 1 hour old (30 Nov 2026, 11:00); nobody has restored it to look.')
  expect(words(hoursAgo(0.5)).text).toContain('less than an hour old')
})

test('an old one, none at all, and one that failed since are for somebody to look at', () => {
  expect(words(hoursAgo(31))).toMatchObject({ bad: true, text: expect.stringContaining('is 31 hours old') })
  expect(words(hoursAgo(75)).text).toMatch(
    /^The last good backup is 3 days old \(27 Nov 2026, 09:00\)\. Whoever runs the server has to look/,
  )
  expect(words(null)).toMatchObject({ bad: true, text: expect.stringMatching(/^There is no backup of this server yet\. Whoever runs/) })
  const failed = words(hoursAgo(10), true, hoursAgo(2))
  expect([failed.bad, failed.text.endsWith('The try of 30 Nov 2026, 10:00 failed.')]).toEqual([true, true])
})
