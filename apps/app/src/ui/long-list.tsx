import { useVirtualizer } from '@tanstack/react-virtual'
import { type ReactNode, useEffect, useRef } from 'react'
import { View } from 'react-native'

interface LongListProps<Row> {
  rows: readonly Row[]
  keyOf: (row: Row) => string
  /** A row's likely height in px; each is measured once it stands. */
  likelyHeight: number
  render: (row: Row, index: number) => ReactNode
  header?: ReactNode
  footer?: ReactNode
  /** Stands where the rows would, if there are none. */
  empty: ReactNode
  /** The row a key chose; kept in sight. */
  cursor?: number
  /** Height in px of what stays at the top while the rows pass under it. */
  under?: number
  /** The end is near: more may be asked for. */
  onNearEnd?: () => void
}
/** Rows kept ready beyond the edge of the screen. */
const BEYOND = 12
/** How many rows before the last one more are asked for. */
const NEAR = 20

/** A scrolling list of any length, of which only what is in sight, and a little more, is drawn. */
export function LongList<Row>({
  rows,
  keyOf,
  likelyHeight,
  render,
  header,
  footer,
  empty,
  cursor,
  under = 0,
  onNearEnd,
}: LongListProps<Row>) {
  const port = useRef<HTMLDivElement>(null)
  const body = useRef<HTMLDivElement>(null)
  // The header scrolls with the rows: they begin below it.
  const margin = body.current?.offsetTop ?? 0
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => port.current,
    estimateSize: () => likelyHeight,
    getItemKey: (index) => keyOf(rows[index] as Row),
    overscan: BEYOND,
    scrollMargin: margin,
    scrollPaddingStart: under,
  })
  const items = virtual.getVirtualItems()
  const last = items.at(-1)?.index ?? 0
  const near = rows.length > 0 && last >= rows.length - NEAR
  useEffect(() => {
    if (near) onNearEnd?.()
  }, [near, onNearEnd])
  useEffect(() => {
    if (cursor !== undefined) virtual.scrollToIndex(cursor, { align: 'auto' })
  }, [cursor, virtual])
  return (
    <div ref={port} style={PORT}>
      {header}
      {rows.length === 0 ? (
        empty
      ) : (
        <div ref={body} style={{ height: virtual.getTotalSize(), position: 'relative', flexShrink: 0 }}>
          {items.map(({ key, index, start }) => (
            <div key={key} data-index={index} ref={virtual.measureElement} style={{ ...ROW, transform: `translateY(${start - margin}px)` }}>
              {render(rows[index] as Row, index)}
            </div>
          ))}
        </div>
      )}
      {footer ? <View>{footer}</View> : null}
    </div>
  )
}
const PORT = { position: 'relative', flex: 1, minHeight: 0, overflowY: 'auto', display: 'flex', flexDirection: 'column' } as const
const ROW = { position: 'absolute', top: 0, left: 0, width: '100%', display: 'flex', flexDirection: 'column' } as const
