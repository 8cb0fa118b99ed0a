import type { SitePageDto, StopPageDto } from '@evenround/contract/site'
import { changeNode, insertAfter, stagesInFlow, type Train } from '@evenround/core/train'
import { serverThat, until } from '../testing/device'
import { stopWith } from '../testing/stop'
import { openEdits, useKeptEdits } from './kept-edits'
import { KEY, queryClient } from './queries'
import { saveSystem, systemOnDevice } from './train-edit'

const stop = stopWith('under-sink-3', [1])
const NO_HISTORY = { untreatedMgL: [], treatedMgL: [], baselinePassage: null }
const SITE: SitePageDto = { site: stop.site, systems: [stop.system], holds: [], visits: [], histories: [] }
const STOP: StopPageDto = { stop, history: NO_HISTORY, wear: [], counter: null }
const softened = (train: Train): Train =>
  insertAfter(train, 'stage-1', { id: 'fresh', kind: 'stage', media: 'carbon-block', housing: 'sump-small', position: 0 })

async function device(owner: string, network: () => boolean) {
  const { asked } = serverThat(() => (network() ? { status: 200, body: { theirs: [] } } : 'no network'))
  await openEdits(owner)
  await until(() => useKeptEdits.getState().owner === owner)
  queryClient.clear()
  queryClient.setQueryData(KEY.site('site'), SITE)
  queryClient.setQueryData(KEY.stop('stop'), STOP)
  return asked
}
const stagesAt = (): string[] =>
  queryClient
    .getQueryData<SitePageDto>(KEY.site('site'))
    ?.systems.map(({ name, stages }) => `${name}: ${stages.map(({ position, media }) => `${position} ${media}`).join(', ')}`) ?? []

test('plumbing drawn without a network stands on the site and its stops at once, and is sent with what it was drawn over', async () => {
  let network = false
  const asked = await device('firm/plumbing', () => network)
  const page = systemOnDevice('system')
  if (!page) throw new Error('the device knows the system')
  expect([page.siteName, page.name, page.serialNo]).toEqual([stop.site.name, stop.system.name, ''])
  const after = { name: 'Pantry', serialNo: 'K-1', train: softened(page.train) }
  await saveSystem(page, after, 'earliest')
  expect(stagesAt()).toEqual(['Pantry: 1 sediment, 2 carbon-block, 3 carbon-block, 4 carbon-block'])
  const shown = queryClient.getQueryData<StopPageDto>(KEY.stop('stop'))?.stop.system
  expect(shown?.stages.map(({ id, part }) => [id, part === null])).toEqual([
    ['stage-1', false],
    ['fresh', true],
    ['stage-2', false],
    ['stage-3', false],
  ])
  // A second edit is drawn over the first.
  const second = systemOnDevice('system')
  if (!second) throw new Error('the device still knows it')
  const again = { ...after, train: changeNode<'stage'>(second.train, 'fresh', { reliefButton: true }) }
  await saveSystem(second, again, 'earliest')
  network = true
  asked.length = 0
  window.dispatchEvent(new Event('online'))
  await until(() => useKeptEdits.getState().edits.length === 0)
  const seen = { name: stop.system.name, serialNo: '', train: page.train }
  expect(asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
    { before: seen, after },
    { before: after, after: again },
  ])
})

test('a new system without a network hangs at its site at once', async () => {
  const asked = await device('firm/new-system', () => false)
  const train = softened(stop.system.train)
  const page = { systemId: 'second', siteId: 'site', siteName: stop.site.name, name: '', serialNo: '', version: 0, train }
  await saveSystem(page, { name: 'Cellar', serialNo: '', train }, 'usage')
  expect(stagesAt()[1]).toBe(
    `Cellar: ${stagesInFlow(train)
      .map(({ position, media }) => `${position} ${media}`)
      .join(', ')}`,
  )
  expect(useKeptEdits.getState().edits.map(({ path, what }) => [path, what])).toEqual([
    ['/api/systems', `New system: Cellar, ${stop.site.name}`],
  ])
  expect(asked.map(({ method }) => method)).toContain('POST')
})

test('a system this device never saw is not made up', async () => {
  await device('firm/unknown', () => false)
  expect(systemOnDevice('nobody knows')).toBeNull()
})
