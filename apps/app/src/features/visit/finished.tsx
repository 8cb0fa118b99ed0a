import type { MeDto } from '@evenround/contract/firm'
import type { FollowsWhy, StopPageDto } from '@evenround/contract/site'
import type { VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { View } from 'react-native'
import { useOutbox } from '../../data/outbox'
import { useToday, useVisitPage } from '../../data/queries'
import { useUnits } from '../../data/units'
import { OUTCOME_WORDS } from '../../parts/visit/outcomes'
import { Slip } from '../../parts/visit/slip-card'
import { dueWords, isLate, stageName } from '../../parts/wear/words'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Columns } from '../../ui/columns'
import { instantText, longDay, shortDay } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { T } from '../../ui/text'
import { nextDue } from './next-due'
import { slipText } from './slip'

interface FinishedProps {
  page: StopPageDto
  state: VisitState
  visitId: string
  me: MeDto
}

const FOLLOWS: Record<FollowsWhy, string> = {
  soak: say`Second visit`,
  'partly-done': say`What was left`,
  'not-right': say`To look for what is not right`,
  'nobody-home': say`Once more`,
  'part-missing': say`With the part`,
}
/** The same to the customer. */
const AGAIN: Record<FollowsWhy, string> = {
  soak: say`the new carbon bed is rinsed and put into service`,
  'partly-done': say`to finish the work`,
  'not-right': say`to look for what keeps the water from being right`,
  'nobody-home': say`nobody was at home this time`,
  'part-missing': say`with the part that was missing`,
}

/** After the end: is it sent, when is the next time, where to now. */
export function Finished({ page, state, visitId, me }: FinishedProps) {
  const units = useUnits()
  const { stop } = page
  const router = useRouter()
  const today = useToday()
  const waiting = useOutbox(
    ({ entries }) => entries.filter(({ fact, state: sent }) => fact.visitId === visitId && sent === 'waiting').length,
  )
  const followUp = useVisitPage(visitId).data?.followUp ?? null
  const again = followUp ? { day: followUp.day, why: AGAIN[followUp.why] } : null
  const next = nextDue(page, state, me.today)
  const nextStop = today.data?.stops.find(({ id, visit }) => id !== stop.id && !visit?.finished)
  return (
    <Screen over={<BackLink href="/today" label={say`Today`} />} title={stop.site.name} wide>
      <Columns>
        <View className="gap-4">
          <Notice tone="good" title={say`${OUTCOME_WORDS[state.finished?.outcome ?? 'done']}. It is in the book.`} live>
            <T>
              {waiting > 0
                ? say`${waiting} entries are kept on this device and are sent when there is a network.`
                : say`Everything has reached the server.`}
            </T>
          </Notice>
          {next ? (
            <View className="gap-1">
              <T kind="heading" level={2}>
                {say`Next time here`}
              </T>
              <T kind="figure">{isLate(next.due) ? say`As soon as can be` : shortDay(next.due.due, me.today)}</T>
              <T>{say`${stageName(next.stage)}, position ${next.stage.position}. ${dueWords(next.due, next.governing, me.today, units)}`}</T>
            </View>
          ) : null}
          {state.holds.map((hold) => (
            <View key={hold.id} className="rounded-card border-2 border-oxblood bg-sheet px-3 py-2">
              <T>{`${hold.text}${hold.until ? say` Until ${instantText(hold.until, me.firm.timeZone)}.` : ''}`}</T>
            </View>
          ))}
          {followUp ? (
            <Notice tone="look" title={`${FOLLOWS[followUp.why]}: ${longDay(followUp.day)}`}>
              <T>{say`It is on your round, at the end of that day. The office may move it inside its window.`}</T>
            </Notice>
          ) : null}
        </View>
        <View className="gap-4">
          <Slip text={slipText({ me, stop, state, next, again })} marks={[...state.fitted.values()].map(({ markText }) => markText)} />
          <View className="gap-3">
            {nextStop ? (
              <Button
                label={say`Next stop: ${nextStop.site.name}`}
                kind="act"
                size="big"
                onPress={() => router.push(`/stop/${nextStop.id}`)}
              />
            ) : null}
            <Button label={say`See it in the book`} onPress={() => router.push(`/book/${visitId}`)} />
          </View>
        </View>
      </Columns>
    </Screen>
  )
}
