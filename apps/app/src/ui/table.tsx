import { midSentence, say } from '@evenround/core/words'
import {
  type ColumnVisibilityState,
  columnVisibilityFeature,
  createSortedRowModel,
  rowSortingFeature,
  type SortingState,
  sortFn_alphanumeric,
  sortFn_text,
  tableFeatures,
  useTable,
} from '@tanstack/react-table'
import { type ReactNode, useMemo, useState } from 'react'
import { Pressable, View } from 'react-native'
import { type ChoosableColumn, useColumnChoice } from './column-choice'
import { useKeys } from './keys'
import { T } from './text'

/** A column of a table: what stands in it, and what it is sorted by. */
export interface TableColumn<R extends object> extends ChoosableColumn {
  value: (row: R) => string | number | null
  /** What is shown where it is more than the value. */
  show?: (row: R) => ReactNode
  /** Share of the width. */
  share: number
  /** Figures stand at the right. */
  figures?: boolean
}

export interface TableView {
  sorting: SortingState
  columnVisibility: ColumnVisibilityState
}
export const USUAL_VIEW: TableView = { sorting: [], columnVisibility: {} }

interface TableProps<R extends object> {
  /** What it is a table of, for a screen reader. */
  label: string
  rows: readonly R[]
  keyOf: (row: R) => string
  columns: readonly TableColumn<R>[]
  view: TableView
  onView: (view: TableView) => void
  chosen: string | null
  onChoose?: ((key: string) => void) | undefined
  /** What else can be done with the list, beside the choice of columns. */
  tools?: ReactNode
}

const FEATURES = tableFeatures({
  rowSortingFeature,
  columnVisibilityFeature,
  sortedRowModel: createSortedRowModel(),
  sortFns: { alphanumeric: sortFn_alphanumeric, text: sortFn_text },
})
type Change<S> = S | ((before: S) => S)
const changed = <S,>(change: Change<S>, before: S): S => (typeof change === 'function' ? (change as (before: S) => S)(before) : change)
const ARROW = { asc: ' ↑', desc: ' ↓' } as const
const SORTED = { asc: 'ascending', desc: 'descending' } as const

/** A table at a desk: sorted by its headings, its columns chosen, j and k to move and Enter to open. */
export function Table<R extends object>({ label, rows, keyOf, columns, view, onView, chosen, onChoose, tools }: TableProps<R>) {
  // The table's own object is changed in place: what is read of it is read anew at every drawing.
  'use no memo'
  const [cursor, setCursor] = useState(0)
  const data = useMemo(() => [...rows], [rows])
  const defined = useMemo(
    () =>
      columns.map(({ id, value }) => ({
        id,
        accessorFn: (row: R) => value(row) ?? undefined,
        sortUndefined: 'last' as const,
        sortFn: 'auto' as const,
      })),
    [columns],
  )
  const table = useTable({
    features: FEATURES,
    columns: defined,
    data,
    getRowId: keyOf,
    state: { sorting: view.sorting, columnVisibility: view.columnVisibility },
    onSortingChange: (change: Change<SortingState>) => onView({ ...view, sorting: changed(change, view.sorting) }),
    onColumnVisibilityChange: (change: Change<ColumnVisibilityState>) =>
      onView({ ...view, columnVisibility: changed(change, view.columnVisibility) }),
  })
  const sorted = table.getRowModel().rows
  // A column nobody filled in is left out until it is asked for.
  const isShown = ({ id, value }: TableColumn<R>): boolean => view.columnVisibility[id] ?? rows.some((row) => value(row) !== null)
  const shown = columns.filter((column) => column.fixed || isShown(column))
  const choice = useColumnChoice(columns, isShown, (id, on) =>
    onView({ ...view, columnVisibility: { ...view.columnVisibility, [id]: on } }),
  )
  const at = Math.min(cursor, sorted.length - 1)
  useKeys({
    j: () => setCursor(Math.min(sorted.length - 1, at + 1)),
    k: () => setCursor(Math.max(0, at - 1)),
    Enter: () => {
      // A heading or a tick that has the focus is meant itself.
      const focused = document.activeElement
      const row = sorted[at]
      if (focused instanceof HTMLElement && ['button', 'checkbox'].includes(focused.getAttribute('role') ?? '')) focused.click()
      else if (row) onChoose?.(row.id)
    },
  })
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap items-center gap-3">
        {tools}
        <View className="flex-1" />
        {choice.button}
      </View>
      {choice.ticks}
      <View role="table" aria-label={label}>
        <View role="row" className="flex-row gap-3 border-b-2 border-l-4 border-b-ink border-l-paper px-2">
          {shown.map(({ id, label: name, share, figures }) => {
            const column = table.getColumn(id)
            const order = column?.getIsSorted() || null
            return (
              <View key={id} role="columnheader" aria-sort={order ? SORTED[order] : 'none'} style={{ flex: share }}>
                <Pressable
                  role="button"
                  aria-label={say`Sort by ${midSentence(name)}`}
                  onPress={() => column?.toggleSorting(order === 'asc')}
                  className={`min-h-[44px] justify-center ${figures ? 'items-end' : ''}`}
                >
                  <T kind="label">{`${name}${order ? ARROW[order] : ''}`}</T>
                </Pressable>
              </View>
            )
          })}
        </View>
        {sorted.map(({ id, original }, index) => (
          <View
            key={id}
            role="row"
            aria-selected={id === chosen}
            className={`flex-row items-center gap-3 border-b-2 border-line px-2 ${id === chosen ? 'bg-sheet' : ''} ${index === at ? 'border-l-4 border-l-kelp' : 'border-l-4 border-l-paper'}`}
          >
            {shown.map(({ id: column, value, show, share, figures, fixed }) => {
              const what = show ? show(original) : <T className={figures ? 'text-right' : ''}>{value(original) ?? ''}</T>
              return (
                <View key={column} role="cell" style={{ flex: share }} className="min-h-[44px] justify-center py-1">
                  {fixed && onChoose ? (
                    <Pressable role="button" onPress={() => onChoose(id)} className="min-h-[44px] justify-center">
                      {what}
                    </Pressable>
                  ) : (
                    what
                  )}
                </View>
              )
            })}
          </View>
        ))}
      </View>
    </View>
  )
}
