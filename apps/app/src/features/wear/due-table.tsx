import type { DueRow } from '@evenround/contract/due'
import { placeText } from '@evenround/core/firm'
import type { ShownUnits } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import type { ReactNode } from 'react'
import { Pressable, View } from 'react-native'
import { hundredths, isLate, stageName } from '../../parts/wear/words'
import type { ChoosableColumn } from '../../ui/column-choice'
import { T } from '../../ui/text'
import { WindowBar } from '../../ui/window-bar'
import { axisOf, dueText, type Sort, windowText } from './due-view'

export const HEAD_HEIGHT = 48
const BAR_WIDTH = 120

interface Shown {
  today: string
  units: ShownUnits
}

/** A column of the list at a desk; the server puts the rows in order, so only some can be sorted by. */
export interface DueColumn extends ChoosableColumn {
  sort?: Sort
  /** Share of the width, or a width in px. */
  share?: number
  px?: number
  show: (row: DueRow, shown: Shown) => ReactNode
}

const late = (row: DueRow): string => (isLate(row.due) ? 'text-oxblood' : 'text-ink')

export const DUE_COLUMNS: readonly DueColumn[] = [
  {
    id: 'due',
    label: say`Due`,
    sort: 'date',
    px: 100,
    fixed: true,
    show: (row, { today }) => (
      <T kind="strong" className={late(row)}>
        {dueText(row.due, today)}
      </T>
    ),
  },
  {
    id: 'risk',
    label: say`Risk`,
    sort: 'risk',
    px: 64,
    show: (row) => <T className={late(row)}>{`${hundredths(row.due.ended)} %`}</T>,
  },
  { id: 'site', label: say`Site`, share: 5, fixed: true, show: ({ siteName }) => <T kind="strong">{siteName}</T> },
  { id: 'place', label: say`Place`, sort: 'place', share: 4, show: (row) => <T kind="quiet">{placeText(row)}</T> },
  { id: 'part', label: say`Part`, share: 6, fixed: true, show: (row) => <PartCell row={row} /> },
  {
    id: 'window',
    label: say`Next half year`,
    px: BAR_WIDTH,
    show: (row, { today }) => <WindowBar {...axisOf(row, today)} width={BAR_WIDTH} />,
  },
  { id: 'why', label: say`Why`, share: 6, show: (row, { today, units }) => <T kind="small">{windowText(row, today, units)}</T> },
]

/** A part's number is not broken where it has a hyphen: it is what somebody looks for on a box. */
function PartCell({ row }: { row: DueRow }) {
  return (
    <View className="flex-row flex-wrap gap-x-2">
      <T>{stageName(row)}</T>
      <T className="whitespace-nowrap">{row.partNumber}</T>
    </View>
  )
}

const width = ({ px, share }: DueColumn) => (px === undefined ? { flex: share } : { width: px })
const ARROWS: Record<Sort, string> = { date: ' ↑', risk: ' ↓', place: ' ↑' }

/** The headings, which stay in sight; those that the list can be put in order by are chosen among. */
export function DueHead({ columns, sort, onSort }: { columns: readonly DueColumn[]; sort: Sort; onSort: (sort: Sort) => void }) {
  return (
    <View
      role="radiogroup"
      aria-label={say`Order`}
      style={{ minHeight: HEAD_HEIGHT }}
      className="sticky top-0 z-10 flex-row items-center gap-3 border-b-2 border-b-ink border-l-4 border-l-transparent bg-paper px-8"
    >
      {columns.map((column) => {
        const by = column.sort
        const on = by === sort
        return (
          <View key={column.id} style={width(column)}>
            {by === undefined ? (
              <T kind="label">{column.label}</T>
            ) : (
              <Pressable
                role="radio"
                aria-checked={on}
                aria-label={column.label}
                onPress={() => onSort(by)}
                className="min-h-[44px] justify-center"
              >
                <T kind="label" className={on ? 'text-kelp underline' : 'underline'}>
                  {`${column.label}${on ? ARROWS[by] : ''}`}
                </T>
              </Pressable>
            )}
          </View>
        )
      })}
    </View>
  )
}

/** What a row says at a desk, in the columns that are shown. */
export function DueCells({ columns, row, ...shown }: { columns: readonly DueColumn[]; row: DueRow } & Shown) {
  return columns.map((column) => (
    <View key={column.id} style={width(column)}>
      {column.show(row, shown)}
    </View>
  ))
}
