import { FAMILIES, familyTrain, type Train } from '@evenround/core/train'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { useState } from 'react'
import { inProgram } from '../../testing/screen'
import { KnownFields } from './known-fields'

afterEach(cleanup)

const plain = familyTrain(FAMILIES.ultraviolet, ['s1', 's2', 's3', 's4'])
let now: Train = plain
function At({ id }: { id: string }) {
  const [train, setTrain] = useState(plain)
  const node = train.nodes.find((one) => one.id === id)
  now = train
  return node ? <KnownFields train={train} node={node} onChange={setTrain} /> : null
}

test('a flow somebody measured is known of its tap; a field emptied again is not known', () => {
  render(<At id="tap" />, { wrapper: inProgram })
  const flow = screen.getByRole('textbox', { name: /Flow here/ })
  fireEvent.change(flow, { target: { value: '8' } })
  expect(now.nodes.find(({ id }) => id === 'tap')).toMatchObject({ flowLMin: 8 })
  fireEvent.change(flow, { target: { value: '' } })
  expect(now).toEqual(plain)
})

test('lamp and sleeve are of one chamber by a word', () => {
  render(<At id="s4" />, { wrapper: inProgram })
  fireEvent.change(screen.getByRole('textbox', { name: /Lamp chamber/ }), { target: { value: 'cellar' } })
  expect(now.nodes.find(({ id }) => id === 's4')).toMatchObject({ reactor: 'cellar', media: 'uv-lamp' })
})
