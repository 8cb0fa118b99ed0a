import type { VisitPageDto } from '@evenround/contract/book'
import type { StoredFact } from '@evenround/contract/visit'
import { effectiveFacts, type Fact } from '@evenround/core/visit'
import { View } from 'react-native'
import { useMe, useVisitPage } from '../../data/queries'
import { useVisit } from '../../data/visit'
import { gradeWord } from '../../parts/visit/grades'
import { HOLD_WORDS } from '../../parts/visit/hold-words'
import { OUTCOME_WORDS } from '../../parts/visit/outcomes'
import { Photos } from '../../parts/visit/photos'
import { mgL, ReadingsTable } from '../../parts/visit/readings-table'
import { stageName } from '../../parts/wear/words'
import { BackLink } from '../../ui/back-link'
import { instantText } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { CorrectVisit } from './correct-visit'

/** One visit as it was recorded; corrected facts stay to be seen. */
export function BookVisit({ id }: { id: string }) {
  const page = useVisitPage(id)
  const back = <BackLink href="/book" label="Book" />
  const title = page.data?.visit?.siteName ?? 'Visit'
  return (
    <Screen over={back} title={title}>
      {page.data ? (
        <Recorded page={page.data} visitId={id} />
      ) : page.error ? (
        <Failed what="This visit cannot be shown" error={page.error} onRetry={() => void page.refetch()} />
      ) : (
        <Waiting what="Loading the visit" />
      )}
    </Screen>
  )
}

function Recorded({ page, visitId }: { page: VisitPageDto; visitId: string }) {
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const { state } = useVisit(visitId)
  const { visit, system, facts } = page
  const counting = new Set(effectiveFacts(facts.map(({ fact }) => fact)).facts.map(({ id }) => id))
  if (!visit && facts.length > 0)
    return (
      <View className="gap-5">
        <Notice tone="look" title="This visit was withdrawn">
          <T>It was recorded at the wrong place. What it said stays here; what was done stands at the site it was done at.</T>
        </Notice>
        <Corrections facts={facts} counting={counting} zone={zone} />
      </View>
    )
  if (!visit)
    return (
      <Empty
        title="Not in the book yet"
        text="This visit has not reached the server. If it was done on this device it is sent when there is a network."
      />
    )
  const stageOf = (id: string) => system?.stages.find((stage) => stage.id === id)
  const steps = state.done.size
  return (
    <View className="gap-5">
      <T kind="quiet">{`${visit.systemName} · ${visit.personName} · ${instantText(visit.begunAt, zone)}${visit.outcome ? ` · ${OUTCOME_WORDS[visit.outcome]}` : ' · not finished'}`}</T>
      <ReadingsTable {...state.readings} />
      <View className="gap-2">
        <T kind="heading" level={2}>
          Parts
        </T>
        {[...state.fitted.values()].map((fitted) => {
          const stage = stageOf(fitted.stageId)
          const removed = state.removed.get(fitted.stageId)
          return (
            <View key={fitted.id} className="border-t-2 border-line pt-2">
              <T kind="strong">{`${fitted.position} · ${stage ? stageName(stage) : 'stage'} · ${fitted.partNumber}`}</T>
              {removed ? (
                <T kind="quiet">{`Taken out: ${gradeWord(removed.found)}${removed.dirtPast ? ', dirt had got past it' : ''}`}</T>
              ) : null}
              <T kind="small">{`on the part: ${fitted.markText}`}</T>
              <Photos visitId={visitId} stageId={fitted.stageId} kept={page.photos} />
            </View>
          )
        })}
        {state.fitted.size === 0 ? <T kind="quiet">No part was fitted.</T> : null}
      </View>
      {state.holds.map((hold) => (
        <T
          key={hold.id}
        >{`Hold: ${HOLD_WORDS[hold.holdKind]}. ${hold.text}${hold.until ? ` Until ${instantText(hold.until, zone)}.` : ''}`}</T>
      ))}
      {state.finished ? (
        <T>{`${steps} steps ticked · monitor ${state.finished.monitorReset === null ? 'none' : state.finished.monitorReset ? 'reset' : 'not reset'} · customer ${state.finished.customerTold ? 'told' : 'not told'}${state.finished.note ? `. Note: ${state.finished.note}` : ''}`}</T>
      ) : null}
      {(state.finished?.leftStanding ?? []).length > 0 ? (
        <T kind="strong">{`Left like this: ${state.finished?.leftStanding.join(' ')}`}</T>
      ) : null}
      <Corrections facts={facts} counting={counting} zone={zone} />
      <CorrectVisit page={page} state={state} />
    </View>
  )
}

function words(fact: Fact): string {
  if (fact.kind === 'tds-reading') return `${fact.water} ${fact.phase}: ${mgL(fact)} mg/L`
  if (fact.kind === 'part-removed') return `found ${fact.found}`
  if (fact.kind === 'part-fitted') return `fitted ${fact.partNumber} at ${fact.position}`
  if (fact.kind === 'step-done') return `tick of ${fact.stepKey}`
  if (fact.kind === 'block-done') return `${fact.steps.length} ticks of “${fact.block}”`
  if (fact.kind === 'hold-begun') return `hold ${HOLD_WORDS[fact.holdKind]}`
  return fact.kind.replaceAll('-', ' ')
}

/** What was corrected or taken back, struck through, with when it had been written. */
function Corrections({ facts, counting, zone }: { facts: readonly StoredFact[]; counting: ReadonlySet<string>; zone: string }) {
  const corrected = facts.filter(({ fact }) => !counting.has(fact.id) && !fact.voided)
  if (corrected.length === 0) return null
  return (
    <View className="gap-1">
      <T kind="heading" level={2}>
        Corrected or withdrawn
      </T>
      {corrected.map(({ fact }) => (
        <T key={fact.id} kind="quiet" className="line-through">
          {`${words(fact)} (${instantText(fact.at, zone)})`}
        </T>
      ))}
    </View>
  )
}
