import { DndContext, MouseSensor, TouchSensor, useSensor, useSensors } from '@dnd-kit/core'
import type { Whose } from '@evenround/contract/round-sums'
import type { RoundPage, SetPlan } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { useMemo, useState } from 'react'
import { type LayoutChangeEvent, useWindowDimensions, View } from 'react-native'
import { useKeys } from '../../ui/keys'
import { T } from '../../ui/text'
import { LABEL_PX, PlanLine, type Scale, xOf } from './plan-line'
import { type Line, linesOf } from './plan-view'
import { type CarryPrices, carried, keyOf } from './price'
import { PriceCard } from './price-card'

interface WeekLinesProps {
  page: RoundPage
  plan: SetPlan
  lines: readonly Line[]
  week: string
  whose: Whose
  chosenId: string | null
  prices: CarryPrices | null
  moved: ReadonlySet<string>
  mayPlan: boolean
  onChoose: (visitId: string | null) => void
  onCarry: (visitId: string, to: string) => void
  onKey: (key: 'pin' | 'forbid' | 'before' | 'after') => void
}

const HOUR = 60
const PAD = 12

/** The week's days as lines under one another; a visit is carried from line to line, and its price stands there before it is let go. */
export function WeekLines({ page, plan, lines, week, whose, chosenId, prices, moved, mayPlan, onChoose, onCarry, onKey }: WeekLinesProps) {
  const screen = useWindowDimensions()
  const [wide, setWide] = useState(Math.min(screen.width - 32, 720))
  const [drag, setDrag] = useState<{ id: string; over: string | null } | null>(null)
  /** Carried by keys: the line it would be let go on. */
  const [aim, setAim] = useState<string | null>(null)
  const sensors = useSensors(
    useSensor(MouseSensor, { activationConstraint: { distance: 6 } }),
    useSensor(TouchSensor, { activationConstraint: { delay: 180, tolerance: 8 } }),
  )
  const over = drag ? drag.over : aim
  const carriedId = drag ? drag.id : aim !== null ? chosenId : null
  const target = over && prices ? prices.to.get(over) : undefined
  const own = prices?.now ? keyOf(prices.now) : null
  const shown = useMemo(() => {
    if (!carriedId || !target || over === own) return lines
    const drawn = new Set(lines.map(keyOf))
    return linesOf(page.set, carried(page.set, plan, carriedId, target), week, whose).filter((line) => drawn.has(keyOf(line)))
  }, [carriedId, target, over, own, lines, page.set, plan, week, whose])
  const scale = scaleOf(lines, wide - LABEL_PX)
  const marks = new Map(page.marks.flatMap(({ visitId, kind }) => (kind === 'pin' || kind === 'promise' ? [[visitId, kind] as const] : [])))
  const keys = useMemo((): Record<string, () => void> => {
    const visits = lines.flatMap(({ stops }) => stops.map(({ visit }) => visit.id))
    const step = (by: number) => () => {
      const at = chosenId ? visits.indexOf(chosenId) : -1
      onChoose(visits[Math.min(visits.length - 1, Math.max(0, at + by))] ?? null)
    }
    const aimBy = (by: number) => () => {
      if (!chosenId || !mayPlan) return
      const all = lines.map(keyOf)
      const at = all.indexOf(aim ?? own ?? '')
      setAim(all[Math.min(all.length - 1, Math.max(0, at + by))] ?? null)
    }
    const leave = (): void => {
      if (aim) setAim(null)
      else onChoose(null)
    }
    const letGo = (): void => {
      if (aim && chosenId && aim !== own && prices?.to.has(aim)) onCarry(chosenId, aim)
      setAim(null)
    }
    return {
      j: step(1),
      k: step(-1),
      ...(chosenId ? { ArrowDown: aimBy(1), ArrowUp: aimBy(-1), Escape: leave } : {}),
      ...(aim ? { Enter: letGo } : {}),
      ...(chosenId && mayPlan ? { p: () => onKey('pin'), f: () => onKey('forbid') } : {}),
      '[': () => onKey('before'),
      ']': () => onKey('after'),
    }
  }, [lines, chosenId, mayPlan, aim, own, prices, onChoose, onCarry, onKey])
  useKeys(keys)
  return (
    <DndContext
      sensors={mayPlan ? sensors : []}
      accessibility={{ announcements: SILENT, screenReaderInstructions: DRAGGING }}
      onDragStart={({ active }) => {
        setAim(null)
        onChoose(String(active.id))
        setDrag({ id: String(active.id), over: null })
      }}
      onDragOver={({ active, over: line }) => setDrag({ id: String(active.id), over: line ? String(line.id) : null })}
      onDragCancel={() => setDrag(null)}
      onDragEnd={({ active, over: line }) => {
        setDrag(null)
        const to = line ? String(line.id) : null
        if (to && to !== own && prices?.to.has(to)) onCarry(String(active.id), to)
      }}
    >
      <View onLayout={({ nativeEvent }: LayoutChangeEvent) => setWide(nativeEvent.layout.width)}>
        <Hours scale={scale} />
        {shown.map((line) => (
          <PlanLine
            key={keyOf(line)}
            line={line}
            scale={scale}
            carriedId={carriedId}
            target={over === keyOf(line) && over !== own}
            possible={carriedId === null || keyOf(line) === own || prices?.to.has(keyOf(line)) === true}
            chosenId={chosenId}
            marks={marks}
            moved={moved}
            onChoose={onChoose}
            everybody={whose === 'all'}
          />
        ))}
        {lines.length === 0 ? <T className="border-t-2 border-line py-4">{say`Nobody is on the road this week.`}</T> : null}
      </View>
      {carriedId && over && over !== own && prices ? (
        <View className="mt-3 gap-2">
          <PriceCard set={page.set} visitId={carriedId} prices={prices} to={over} />
          <T kind="small">{drag ? say`Drop to move it · Esc cancels` : say`Enter drops it · ↑ ↓ another day · Esc cancels`}</T>
        </View>
      ) : null}
    </DndContext>
  )
}

/** The price card says it; the library's own sentences would say it twice. */
/** What a screen reader says of a visit that can be moved. */
const DRAGGING = {
  draggable: say`Press space to pick the visit up, the arrow keys to choose another day, space again to put it there, Escape to leave it.`,
}
const SILENT = { onDragStart: () => undefined, onDragOver: () => undefined, onDragEnd: () => undefined, onDragCancel: () => undefined }

function scaleOf(lines: readonly Line[], width: number): Scale {
  const from = Math.min(8 * HOUR, ...lines.map(({ fromMin }) => fromMin))
  const to = Math.max(16 * HOUR, ...lines.map(({ toMin, homeMin }) => Math.max(toMin, homeMin ?? 0)))
  return { fromMin: Math.floor(from / HOUR) * HOUR - PAD, toMin: Math.ceil(to / HOUR) * HOUR, width: Math.max(120, width) }
}

function Hours({ scale }: { scale: Scale }) {
  const step = scale.width < 380 ? 4 : 2
  const hours = Array.from({ length: 24 / step }, (_, index) => index * step * HOUR).filter(
    (minute) => minute >= scale.fromMin && minute < scale.toMin,
  )
  return (
    <View style={{ height: 20, marginLeft: LABEL_PX }}>
      {hours.map((minute) => (
        <View key={minute} style={{ position: 'absolute', left: Math.min(xOf(scale, minute) - 12, scale.width - 34) }}>
          <T kind="small">{`${minute / HOUR}:00`}</T>
        </View>
      ))}
    </View>
  )
}
