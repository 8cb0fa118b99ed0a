import type { DueRow, StagePageDto } from '@evenround/contract/due'
import { METRIC } from '@evenround/core/units'
import { USUAL_RULE } from '@evenround/core/wear'
import { cleanup, render, screen } from '@testing-library/react'
import { dueWith } from '../../testing/due'
import { SeriesChart } from '../../ui/series-chart'
import { WindowBar } from '../../ui/window-bar'
import { WindowsAxis } from '../../ui/windows-axis'
import { axisOf, dueText, filtersOf, queryOf, windowText } from './due-view'
import { axis, drawn, valueText } from './stage-view'

afterEach(cleanup)

const TODAY = '2026-11-25'
const row: DueRow = {
  stageId: 's',
  systemId: 'y',
  siteId: 'i',
  siteName: 'Tern House',
  systemName: 'Kitchen',
  village: 'Quay',
  island: 'Thrawn',
  media: 'sediment',
  partNumber: 'BRK-SED-10',
  fittedOn: '2026-06-01',
  dateKnown: true,
  due: dueWith({ due: '2026-12-01', windowFrom: '2026-11-28', windowTo: '2027-01-01', ended: 0.123 }),
  p10: '2026-12-05',
  p50: '2027-01-10',
  p90: '2027-03-19',
  governing: 'throughput',
  school: 'earliest',
}

describe('the list of what is due', () => {
  test('an address is read with its usual for whatever is wrong, and asked of the server', () => {
    expect(filtersOf({})).toEqual({ sort: 'date', horizon: '13w', island: null, media: null, advice: null, text: '' })
    const filters = filtersOf({ sort: 'mood', until: '4w', media: 'membrane', island: 'Thrawn', text: ' tern ' })
    expect(filters).toEqual({ sort: 'date', horizon: '4w', island: 'Thrawn', media: 'membrane', advice: null, text: ' tern ' })
    expect(queryOf(filters, TODAY)).toEqual({ sort: 'date', until: '2026-12-23', island: 'Thrawn', media: 'membrane', text: 'tern' })
    expect(queryOf(filtersOf({ until: 'all', sort: 'risk' }), TODAY)).toEqual({ sort: 'risk' })
  })
  test('the day, the window, the cause and the risk in words', () => {
    const on = (due: string, state: DueRow['due']['state'] = 'overdue') => dueText(dueWith({ due, state }), TODAY)
    expect([on('2026-11-03', 'spent'), on('2026-11-03'), on(TODAY), on('2027-03-04')]).toEqual([
      'now',
      'since 3 Nov',
      'today',
      '4 Mar 2027',
    ])
    const text = (more: Partial<DueRow['due']>, dateKnown = true) =>
      windowText({ ...row, dateKnown, due: { ...row.due, ...more } }, TODAY, METRIC)
    expect(text({})).toBe('28 Nov–1 Jan 2027 · litres · 12 in 100 spent')
    // Nobody looked inside: however sure, it is never said to be certain, and the table's own figure is the same.
    expect(text({ ended: 0.9999 })).toBe('28 Nov–1 Jan 2027 · litres · 99 in 100 spent')
    expect(text({ state: 'spent', ended: 0.953 })).toBe('Spent, very likely (95 in 100) · litres')
    expect(text({ state: 'any-day', setBy: 'label', labelAmount: 365, ended: 0.2 })).toBe(
      'any day until then · label of 1 year · 20 in 100 spent',
    )
    const contract = { setBy: 'contract' as const, rule: { ...USUAL_RULE, by: 'contract' as const, months: 6, from: 'site' as const } }
    expect(text({ ...contract, state: 'overdue', ended: 0.001 }, false)).toBe('overdue · contract of 6 months · fitting date not known')
  })
  test('places on the axis of half a year', () => {
    const { from, due } = axisOf(row, TODAY)
    expect([from, due]).toEqual([10 / 182, 6 / 182])
    const { container } = render(<WindowBar {...axisOf(row, TODAY)} width={140} />)
    expect(container.querySelectorAll('rect')).toHaveLength(2)
  })
})

const window = { p10: '2027-01-01', p50: '2027-03-01', p90: '2027-06-01' }
const page: StagePageDto = {
  stage: { id: 's', siteId: 'i', siteName: 'Tern House', systemId: 'y', systemName: 'Kitchen', position: 4, media: 'membrane' },
  today: TODAY,
  part: {
    partNumber: 'BRK-RO-75',
    fittedOn: '2025-11-25',
    dateKnown: true,
    rated: { days: 913, litres: null, milliequivalents: null, hours: null },
  },
  forecast: {
    ...window,
    governing: 'passage',
    causes: [{ cause: 'passage', ...window, hazardShare: 1, evidence: '3 readings' }],
    remaining: 0.3,
    ended: 0.02,
    state: 'good',
    doubted: [],
    narrowing: [],
  },
  due: dueWith({ due: '2027-02-01', windowFrom: '2026-12-01', windowTo: '2027-04-01' }),
  ruledAt: [],
  use: null,
  school: { inForce: 'earliest', from: 'firm' },
  chosen: { firm: 'earliest', site: null, stage: null },
  history: [],
  carriedOver: [],
  washedOn: [],
  series: [
    {
      cause: 'passage',
      quantity: 'passage',
      limit: 0.1,
      points: [
        { at: '2025-11-25T12:00:00.000Z', on: '2025-11-25', value: 0.05 },
        { at: '2026-11-25T12:00:00.000Z', on: '2026-11-25', value: 0.085 },
      ],
    },
  ],
}

describe('a stage’s page', () => {
  test('the course runs from the first reading to the limit on the median day, its band on the early and late ones', () => {
    const [series] = page.series
    if (!series) throw new Error('no series')
    const { first, last, ticks } = axis(page)
    const { points, course } = drawn(series, page, last)
    expect(points.map(({ day }) => day)).toEqual([-365, 0])
    expect(course?.middle[0]).toEqual({ day: expect.closeTo(-365, 9), value: expect.closeTo(0.05, 9) })
    // 96 days on, on the median day, the passage stands at its limit: ln is straight in between.
    const slope = Math.log(0.1 / 0.05) / (96 + 365)
    for (const { day, value } of course?.middle ?? []) expect(value).toBeCloseTo(0.05 * Math.exp(slope * (day + 365)), 9)
    expect((course?.early.at(-1)?.value ?? 0) > (course?.late.at(-1)?.value ?? 0)).toBe(true)
    expect(ticks.every(({ at }) => at > first && at < last)).toBe(true)
    render(
      <SeriesChart
        points={points}
        limit={{ value: 0.1, label: 'done at 10 %' }}
        course={course}
        first={first}
        last={last}
        ticks={ticks}
        format={(value) => valueText('passage', value)}
        width={360}
        label="Passage"
      />,
    )
    expect(screen.getByRole('img', { name: 'Passage' })).toBeTruthy()
    expect(screen.getByText('done at 10 %')).toBeTruthy()
  })
  test('litres go on straight from the last count', () => {
    const litres = {
      cause: 'throughput' as const,
      quantity: 'litres' as const,
      limit: 2000,
      points: [
        { at: '', on: '2026-10-25', value: 0 },
        { at: '', on: TODAY, value: 300 },
      ],
    }
    const forecast = {
      ...page.forecast,
      causes: [{ cause: 'throughput' as const, ...window, hazardShare: 1, evidence: '' }],
    } as StagePageDto['forecast']
    const { course } = drawn(litres, { ...page, forecast }, 96)
    expect(course?.middle[0]).toEqual({ day: 0, value: 300 })
    expect(course?.middle.at(-1)?.value).toBeCloseTo(2000, 6)
  })
  test('windows stand under one another with the day to change', () => {
    render(
      <WindowsAxis
        windows={[{ id: 'a', label: 'passage', from: 30, middle: 96, to: 188, strong: true }]}
        first={-100}
        last={300}
        ticks={[{ at: 37, label: 'Jan 2027' }]}
        due={60}
        width={360}
        label="passage: about 1 Mar 2027"
      />,
    )
    expect(screen.getByRole('img', { name: 'passage: about 1 Mar 2027' })).toBeTruthy()
    expect(screen.getAllByText('passage').length).toBeGreaterThan(0)
  })
})
