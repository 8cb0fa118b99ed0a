import { act, cleanup, fireEvent, render, screen, within } from '@testing-library/react'
import { useState } from 'react'
import { Table, type TableColumn, type TableView, USUAL_VIEW } from './table'

interface Part {
  id: string
  name: string
  price: number
  supplier: string | null
}
const PARTS: Part[] = [
  { id: 'a', name: 'Sediment 10', price: 900, supplier: null },
  { id: 'b', name: 'Carbon', price: 1200, supplier: 'Quayside' },
  { id: 'c', name: 'Lamp', price: 99, supplier: 'Alder' },
]
const COLUMNS: TableColumn<Part>[] = [
  { id: 'name', label: 'Name', value: ({ name }) => name, share: 2, fixed: true },
  { id: 'supplier', label: 'Supplier', value: ({ supplier }) => supplier, share: 1 },
  { id: 'price', label: 'Price', value: ({ price }) => price, share: 1, figures: true },
]

function Shown({ onChoose }: { onChoose?: (key: string) => void }) {
  const [view, setView] = useState<TableView>(USUAL_VIEW)
  return (
    <Table
      label="Parts"
      rows={PARTS}
      keyOf={({ id }) => id}
      columns={COLUMNS}
      view={view}
      onView={setView}
      chosen={null}
      onChoose={onChoose}
    />
  )
}
afterEach(cleanup)
const names = (): string[] =>
  within(screen.getByRole('table', { name: 'Parts' }))
    .getAllByRole('row')
    .slice(1)
    .map((row) => within(row).getAllByRole('cell')[0]?.textContent ?? '')
const sortBy = (name: string): void => {
  fireEvent.click(screen.getByRole('button', { name: `Sort by ${name}` }))
}

test('stands as it came, then by a heading up and down; figures as figures, what is empty last', () => {
  render(<Shown />)
  expect(names()).toEqual(['Sediment 10', 'Carbon', 'Lamp'])
  sortBy('price')
  expect(names()).toEqual(['Lamp', 'Sediment 10', 'Carbon'])
  expect(screen.getByRole('columnheader', { name: /Price|price/ }).getAttribute('aria-sort')).toBe('ascending')
  sortBy('price')
  expect(names()).toEqual(['Carbon', 'Sediment 10', 'Lamp'])
  sortBy('supplier')
  expect(names()).toEqual(['Lamp', 'Carbon', 'Sediment 10'])
})

test('a column that is not wanted goes and comes back; the first one stays', () => {
  render(<Shown />)
  fireEvent.click(screen.getByRole('button', { name: 'Columns' }))
  expect(screen.getAllByRole('checkbox').map((box) => box.textContent)).toEqual(['✓Supplier', '✓Price'])
  fireEvent.click(screen.getByRole('checkbox', { name: /Supplier/ }))
  expect(screen.getAllByRole('columnheader')).toHaveLength(2)
  fireEvent.click(screen.getByRole('checkbox', { name: /Supplier/ }))
  expect(screen.getAllByRole('columnheader')).toHaveLength(3)
})

test('j, k and Enter open a row as it stands; Enter on a heading sorts by it', () => {
  const opened: string[] = []
  render(<Shown onChoose={(key) => opened.push(key)} />)
  sortBy('price')
  fireEvent.keyDown(window, { key: 'j' })
  fireEvent.keyDown(window, { key: 'Enter' })
  fireEvent.keyDown(window, { key: 'k' })
  fireEvent.keyDown(window, { key: 'Enter' })
  expect(opened).toEqual(['a', 'c'])
  act(() => screen.getByRole('button', { name: 'Sort by name' }).focus())
  fireEvent.keyDown(window, { key: 'Enter' })
  expect(names()).toEqual(['Carbon', 'Lamp', 'Sediment 10'])
  expect(opened).toHaveLength(2)
})
