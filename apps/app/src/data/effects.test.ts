import type { VisitPageDto } from '@evenround/contract/book'
import type { Effects } from '@evenround/contract/effects'
import type { News } from '@evenround/contract/live'
import type { StopPageDto, TodayDto } from '@evenround/contract/site'
import { done, type Fact, type FactKind } from '@evenround/core/visit'
import { QueryClient } from '@tanstack/react-query'
import { stopWith } from '../testing/stop'
import { applyEffects } from './effects'
import { hear } from './live'

const NONE: Effects = { visits: [], followUps: [], holds: [], systems: [] }
const NOW = '2026-11-25T10:00:00.000Z'
const stop = stopWith('under-sink-3', [1])
const other = stopWith('under-sink-3', [1], { id: 'other' })

const base = (id: string) => ({ id, at: NOW, seq: 1, siteId: 'site', visitId: 'v', supersedes: null, voided: false })
const tick = (id: string): Fact => ({ ...base(id), kind: 'step-done', stepKey: 'k', verb: null, stageId: null, ...done() })
const of = (kind: FactKind): Fact => ({ ...base('x'), kind }) as Fact

/** A device that shows a stop, the day and the visit. */
function device() {
  const client = new QueryClient()
  const stopPage: StopPageDto = { stop, history: { untreatedMgL: [], treatedMgL: [], baselinePassage: null }, wear: [], counter: null }
  const today = {
    day: '2026-11-25',
    timeZone: 'UTC',
    fromMin: 480,
    toMin: 960,
    homeMin: null,
    stops: [stop, other],
    publication: null,
  } as TodayDto
  const visit: VisitPageDto = { visit: null, site: null, system: null, facts: [], photos: [], followUp: null }
  client.setQueryData(['stop', 'stop'], stopPage)
  client.setQueryData(['today'], today)
  client.setQueryData(['visit', 'v'], visit)
  client.setQueryData(['due', null], { rows: [] })
  client.setQueryData(['book'], { visits: [], next: null })
  const stale = (): string[] =>
    client
      .getQueryCache()
      .getAll()
      .filter(({ state }) => state.isInvalidated)
      .map(({ queryKey }) => String(queryKey[0]))
      .sort()
  const read = <T>(...key: string[]): T => client.getQueryData<T>(key) as T
  const answered = (effects: Partial<Effects>, ...accepted: Fact[]) =>
    applyEffects(client, { effects: { ...NONE, ...effects }, accepted, personId: 'tam', now: NOW })
  return { client, stale, read, answered }
}

test('a tick goes to its visit once, and nothing is asked for again', () => {
  const { stale, read, answered } = device()
  answered({}, tick('a'))
  answered({}, tick('a'), tick('b'))
  expect(read<VisitPageDto>('visit', 'v').facts.map(({ fact }) => fact.id)).toEqual(['a', 'b'])
  expect(stale()).toEqual([])
})

test('a visit that begins and ends stands on its stop, on the stop’s page and on the day; the other stop is left as it was', () => {
  const { read, answered } = device()
  const before = read<TodayDto>('today').stops[1]
  answered({ visits: [{ visitId: 'v', stopId: 'stop', finished: false }] }, of('visit-begun'))
  expect(read<StopPageDto>('stop', 'stop').stop.visit).toEqual({ id: 'v', finished: false })
  answered(
    {
      visits: [{ visitId: 'v', stopId: null, finished: true }],
      followUps: [{ visitId: 'v', followUp: { stopId: 's2', day: '2026-11-27', why: 'soak' } }],
    },
    of('visit-finished'),
  )
  expect(read<StopPageDto>('stop', 'stop').stop.visit).toEqual({ id: 'v', finished: true })
  expect(read<TodayDto>('today').stops.map(({ visit }) => visit)).toEqual([{ id: 'v', finished: true }, null])
  expect(read<TodayDto>('today').stops[1]).toBe(before)
  expect(read<VisitPageDto>('visit', 'v').followUp?.day).toBe('2026-11-27')
})

test('holds and systems are put where they are shown; lists that cannot know them are asked for again', () => {
  const { stale, read, answered } = device()
  const hold = { id: 'h', holdKind: 'first-tank' as const, begunAt: NOW, until: null, text: 'Pour it away.' }
  const system = { ...stop.system, name: 'Kitchen, as it is now' }
  answered({ holds: [{ siteId: 'site', holds: [hold] }], systems: [system] }, of('part-fitted'))
  expect(read<StopPageDto>('stop', 'stop').stop.holds).toEqual([hold])
  expect(read<TodayDto>('today').stops.map(({ system: { name } }) => name)).toEqual(['Kitchen, as it is now', 'Kitchen, as it is now'])
  expect(stale()).toEqual(['due', 'stop'])
})

describe('news of other devices', () => {
  const news = (more: Partial<Extract<News, { what: 'facts' }>> = {}): News => ({
    what: 'facts',
    deviceId: 'theirs',
    kinds: ['step-done'],
    visitIds: ['v'],
    siteIds: ['site'],
    ...more,
  })
  test('this device’s own came back with the answer', () => {
    const { client, stale } = device()
    hear(client, news({ deviceId: 'mine' }), 'mine')
    expect(stale()).toEqual([])
  })
  test('a tick is of interest on its visit alone', () => {
    const { client, stale } = device()
    hear(client, news(), 'mine')
    expect(stale()).toEqual(['visit'])
  })
  test('a part that went in changes the day, the stop and the lists', () => {
    const { client, stale } = device()
    hear(client, news({ kinds: ['part-fitted', 'step-done'] }), 'mine')
    expect(stale()).toEqual(['due', 'stop', 'today', 'visit'])
  })
  test('a published round changes the days; a move of the planner does not', () => {
    const { client, stale } = device()
    hear(client, { what: 'round', published: false }, 'mine')
    expect(stale()).toEqual([])
    hear(client, { what: 'round', published: true }, 'mine')
    expect(stale()).toEqual(['stop', 'today'])
  })
  test('after a silence everything on the screen is asked for again', () => {
    const { client, stale } = device()
    hear(client, { what: 'again' }, 'mine')
    expect(stale()).toEqual(['book', 'due', 'stop', 'today', 'visit'])
  })
})
