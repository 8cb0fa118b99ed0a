import { afterPositive, readLaboratory, repeatMonths, resultVerdict } from '.'

describe('proof', () => {
  test('E. coli has its own urgency; positive twice is not held by shocks', () => {
    expect(resultVerdict({ totalColiform: 'present', eColi: 'present' })).toBe('e-coli')
    expect(resultVerdict({ totalColiform: 'present', eColi: 'absent' })).toBe('positive')
    expect([afterPositive(0), afterPositive(1)]).toEqual(['repeat', 'continuous'])
    expect([repeatMonths({ repeat: 'yearly' }), repeatMonths({ repeat: 'none' })]).toEqual([12, null])
  })

  const HEADS = ['bottle', 'report', 'date', 'total_coliform', 'e_coli', 'nitrate']
  test('a laboratory’s file: words or counts, what else it found, blank lines left out', () => {
    expect(
      readLaboratory([
        HEADS,
        ['B1', 'R1', '2026-12-04', 'Absent', 'ND', '12 mg/L'],
        ['', '', '', '', '', ''],
        ['B2', 'R2', '2026-12-04', '140', '3', ''],
      ]),
    ).toEqual({
      ok: true,
      lines: [
        {
          bottle: 'B1',
          reportNumber: 'R1',
          day: '2026-12-04',
          totalColiform: 'absent',
          eColi: 'absent',
          others: [{ name: 'nitrate', value: '12 mg/L' }],
        },
        { bottle: 'B2', reportNumber: 'R2', day: '2026-12-04', totalColiform: 'present', eColi: 'present', others: [] },
      ],
    })
  })
  test('what is wrong is said with its line, and nothing is taken', () => {
    expect(readLaboratory([['bottle']])).toEqual({
      ok: false,
      problems: [{ line: 1, text: 'expected a column report, date, total_coliform, e_coli' }],
    })
    const made = readLaboratory([HEADS, ['', 'R', '4 December', 'maybe', '-1', '']])
    expect(made.ok ? [] : made.problems.map(({ line, text }) => `${line}: ${text}`)).toEqual([
      '2: expected a bottle number',
      '2: expected a date, YYYY-MM-DD, got 4 December',
      '2: expected absent, present or a count, got maybe',
      '2: expected absent, present or a count, got -1',
    ])
    const odd = readLaboratory([HEADS, ['B', 'R', '2026-12-04', '0', '1', '']])
    expect(odd.ok).toBe(false)
  })
})
