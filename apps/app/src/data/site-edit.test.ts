import type { SiteDto, SitePageDto } from '@evenround/contract/site'
import { serverThat, until } from '../testing/device'
import { forgetEdit, openEdits, useKeptEdits } from './kept-edits'
import { KEY, queryClient } from './queries'
import { changesOf, keepSiteEdit } from './site-edit'

const SITE: SiteDto = {
  id: 'smoke',
  version: 4,
  name: 'Smokehouse',
  street: '7 Smoke Lane',
  postcode: '',
  village: 'Quay',
  island: '',
  country: '',
  lat: 58.31,
  lon: -21.62,
  access: 'Ring twice',
  contact: 'Odd Larn',
  phone: 'Quay 7',
  email: '',
  contacts: [],
  people: 4,
  source: 'municipal',
  chlorineMgL: null,
  kind: 'home',
}
const { id: _, version: __, ...FIELDS } = SITE

test('only what changed is said, with what stood before; a position goes whole', () => {
  expect(changesOf(SITE, { ...FIELDS, phone: 'Quay 8' })).toEqual({ before: { phone: 'Quay 7' }, after: { phone: 'Quay 8' } })
  expect(changesOf(SITE, { ...FIELDS, lat: 58.4 })).toEqual({ before: { lat: 58.31, lon: -21.62 }, after: { lat: 58.4, lon: -21.62 } })
  expect(changesOf(SITE, FIELDS)).toEqual({ before: {}, after: {} })
})

test('it stands on the device at once and waits to be sent; what somebody else changed meanwhile is told, and gone once it was read', async () => {
  let network = false
  const { asked } = serverThat(() => (network ? { status: 200, body: { theirs: ['phone'] } } : 'no network'))
  await openEdits('firm/site-edit')
  await until(() => useKeptEdits.getState().owner === 'firm/site-edit')
  queryClient.setQueryData(KEY.site('smoke'), { site: SITE } as SitePageDto)
  await keepSiteEdit(SITE, { ...FIELDS, phone: 'Quay 8', access: 'Ring once' })
  expect(queryClient.getQueryData<SitePageDto>(KEY.site('smoke'))?.site.access).toBe('Ring once')
  const [edit] = useKeptEdits.getState().edits
  expect([edit?.path, edit?.state]).toEqual(['/api/sites/smoke/changes', 'waiting'])
  network = true
  asked.length = 0
  window.dispatchEvent(new Event('online'))
  await until(() => useKeptEdits.getState().edits[0]?.state === 'told')
  expect(asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
    { before: { access: 'Ring twice', phone: 'Quay 7' }, after: { access: 'Ring once', phone: 'Quay 8' } },
  ])
  expect(useKeptEdits.getState().edits[0]?.message).toBe(
    'Somebody changed this meanwhile, and theirs stands: telephone. The rest of yours is saved.',
  )
  await forgetEdit(edit?.id ?? '')
  expect(useKeptEdits.getState().edits).toEqual([])
})
