import { act, cleanup, fireEvent, screen, waitFor } from '@testing-library/react'
import { show } from '../../testing/screen'
import { ChlorineShelf } from './chlorine'

afterEach(cleanup)

const shown = (answers = {}) => show(<ChlorineShelf mayEdit today="2026-11-25" />, { '/api/chlorine': { products: [] }, ...answers })
const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } })
const press = (name: string): void => void fireEvent.click(screen.getByRole('button', { name }))
const open = async (): Promise<void> => {
  fireEvent.click(await screen.findByRole('button', { name: 'Add a product' }))
}

test('what a product still wants is said at each field, and nothing is sent before', async () => {
  const { acts } = shown()
  await open()
  fireEvent.click(screen.getByRole('radio', { name: 'Weight (w/w)' }))
  type('Strength by the label', '')
  type('Kept at about', '')
  press('Save it')
  for (const said of [
    'Name is required',
    'Type the strength that stands on the label',
    'Type about how warm it is kept',
    /^Type the density/,
  ])
    expect(await screen.findByText(said)).toBeTruthy()
  await act(async () => undefined)
  expect(acts()).toEqual([])
})

test('a liquid by weight is sent with its density; granules are sent without what only a liquid has', async () => {
  const { asked } = shown({ PUT: { ok: true } })
  await open()
  type('Name', 'Granules of the shed')
  fireEvent.click(screen.getByRole('radio', { name: 'Weight (w/w)' }))
  type('Density', '1.21')
  fireEvent.click(screen.getByRole('radio', { name: 'Granules' }))
  type('Strength by the label', '65')
  press('Save it')
  await waitFor(() => expect(asked.some(({ method }) => method === 'PUT')).toBe(true))
  expect(asked.find(({ method }) => method === 'PUT')?.body).toMatchObject({
    name: 'Granules of the shed',
    form: 'solid',
    percent: 65,
    basis: null,
    densityKgL: null,
    filledOn: null,
  })
})
