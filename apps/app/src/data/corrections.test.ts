import { visitState } from '@evenround/core/visit'
import { base, reading } from '../testing/facts'
import { stopWith } from '../testing/stop'
import { moveVisit } from './corrections'
import { type NewFact, record } from './outbox'

jest.mock('./outbox', () => ({ record: jest.fn(async () => []) }))

const from = stopWith('under-sink-3', []).system
const to = { ...stopWith('under-sink-2', []).system, id: 'there', siteId: 'other-site', trainVersion: 4 }
const there = { ...to, stages: to.stages.map((stage) => ({ ...stage, id: `there-${stage.position}` })) }
const RATED = { days: null, litres: null, milliequivalents: null, hours: null }
const part = (position: number) => ({
  ...base(`fitted-${position}`),
  kind: 'part-fitted' as const,
  stageId: `stage-${position}`,
  partId: null,
  partNumber: 'P',
  position,
  markText: 'm',
  dateKnown: true,
  rated: RATED,
})
const facts = [
  {
    ...base('begun'),
    kind: 'visit-begun' as const,
    stopId: 'stop',
    systemId: from.id,
    trainVersion: 1,
    engineVersion: 1,
    tasks: [{ stage: 'stage-1', action: 'change' as const }],
    place: null,
  },
  { ...reading(410), ...base('read'), systemId: from.id },
  part(1),
  part(3),
]

test('a visit at the wrong site is taken back there and written down at the right one, at its own times', async () => {
  const { visitId, left } = await moveVisit(facts, visitState(facts), from, there)
  const written = jest.mocked(record).mock.calls.flat() as (NewFact & { at: string })[]
  const [back, anew] = [written.filter(({ voided }) => voided), written.filter(({ voided }) => !voided)]
  expect(back.map(({ supersedes }) => supersedes)).toEqual(['begun', 'read', 'fitted-1', 'fitted-3'])
  // The set there has no third position: its part is not carried along, and that is said.
  expect(left).toBe(1)
  expect(anew.map(({ kind, siteId, at }) => [kind, siteId, at])).toEqual(
    ['visit-begun', 'tds-reading', 'part-fitted'].map((kind) => [kind, 'other-site', base('x').at]),
  )
  expect(anew.every((fact) => fact.visitId === visitId)).toBe(true)
  expect(anew[0]).toMatchObject({ stopId: null, systemId: 'there', trainVersion: 4, tasks: [{ stage: 'there-1', action: 'change' }] })
  expect(anew[2]).toMatchObject({ stageId: 'there-1' })
})
