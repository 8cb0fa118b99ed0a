import { inputOfSet } from '@evenround/contract/round-set'
import type { RoundPage, RoundVisitDto } from '@evenround/contract/rounds'
import { type WayOut, waysOut } from '@evenround/core/round'
import { say } from '@evenround/core/words'
import { Link, type LinkProps } from 'expo-router'
import { useMemo } from 'react'
import { Pressable, View } from 'react-native'
import { markVisit, unmark } from '../../data/round'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'
import { signed, termsOf } from './price'
import { weekdayWord } from './words'

interface WaysOutProps {
  page: RoundPage
  visit: RoundVisitDto
  mayPlan: boolean
  act: (work: () => Promise<RoundPage>) => void
}

/** What helps a visit without a day: each thing that could be given up, with the day it would then have and what that costs. */
export function WaysOut({ page, visit, mayPlan, act }: WaysOutProps) {
  const { set, draft } = page
  const ways = useMemo(() => waysOut(inputOfSet(set), draft.plan, visit.id), [set, draft.plan, visit.id])
  if (ways.length === 0) return null
  return (
    <View testID="ways-out" className="gap-2 border-l-4 border-brine pl-3">
      <T kind="strong">{say`What would help`}</T>
      {ways.map((way) => (
        <View key={way.kind} className="flex-row flex-wrap items-center gap-2">
          <View className="shrink grow basis-[220px]">
            <T>{wordsOf(page, visit, way)}</T>
            <T kind="small">
              {`${signed(way.total)} · ${termsOf(null, way)
                .map((term) => `${term.words} ${signed(term.minutes).replace(' min', '')}`)
                .join(', ')}`}
            </T>
          </View>
          {mayPlan ? <Act page={page} visit={visit} way={way} act={act} /> : null}
        </View>
      ))}
    </View>
  )
}

/** What is given up, in a sentence. */
function wordsOf({ set }: RoundPage, { skills }: RoundVisitDto, { kind, technician, day }: WayOut): string {
  const on = weekdayWord(set.days[day] ?? '')
  const person = set.technicians.find(({ id }) => id === technician)?.name.split(' ')[0] ?? ''
  switch (kind) {
    case 'unpin':
      return say`Not held to its day: ${on}, ${person}`
    case 'shut-day':
      return say`The customer opens on ${on}: ${person}`
    case 'outside-window':
      return say`Outside its window, ${on}: ${person}`
    case 'other-hours':
      return say`At another hour on ${on}: ${person}`
    case 'overtime':
      return say`More overtime on ${on}: ${person}`
    case 'day-off':
      return say`${person} works on ${on}`
    case 'skill':
      return say`${person} has the skill (${skills.join(', ')}): ${on}`
  }
}

function Act({ page, visit, way, act }: Omit<WaysOutProps, 'mayPlan'> & { way: WayOut }) {
  const day = page.set.days[way.day] ?? ''
  const held = page.marks.find(({ visitId, kind }) => visitId === visit.id && (kind === 'pin' || kind === 'promise'))
  switch (way.kind) {
    case 'unpin':
      return held ? <Button label={say`Unpin`} onPress={() => act(() => unmark(held.id))} /> : null
    case 'shut-day':
    case 'outside-window':
      return (
        <Button label={say`Pin to ${weekdayWord(day)}`} onPress={() => act(() => markVisit({ visitId: visit.id, kind: 'pin', day }))} />
      )
    case 'other-hours':
      return <To href={`/hours/${visit.siteId}`} label={say`Change its hours`} />
    case 'skill':
      return <To href="/firm" label={say`Open The firm`} />
    default:
      return <To href="/times" label={say`Change working times`} />
  }
}

function To({ href, label }: { href: LinkProps['href']; label: string }) {
  return (
    <Link href={href} asChild>
      <Pressable className="min-h-[48px] justify-center rounded-card border-2 border-line bg-sheet px-4">
        <T kind="label">{label}</T>
      </Pressable>
    </Link>
  )
}
