import type { VisitPageDto } from '@evenround/contract/book'
import type { StoredFact } from '@evenround/contract/visit'
import { effectiveFacts, type Fact } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { useMe, useVisitPage } from '../../data/queries'
import { useVisit } from '../../data/visit'
import { gradeWord } from '../../parts/visit/grades'
import { holdWords } from '../../parts/visit/hold-words'
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
const READ = {
  untreated: { before: say`untreated before`, after: say`untreated after` },
  treated: { before: say`treated before`, after: say`treated after` },
}

export function BookVisit({ id }: { id: string }) {
  const page = useVisitPage(id)
  const back = <BackLink href="/book" label={say`Book`} />
  const title = page.data?.visit?.siteName ?? say`Visit`
  return (
    <Screen over={back} title={title}>
      {page.data ? (
        <Recorded page={page.data} visitId={id} />
      ) : page.error ? (
        <Failed what={say`This visit cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
      ) : (
        <Waiting what={say`Loading the visit`} />
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
        <Notice tone="look" title={say`This visit was withdrawn`}>
          <T>{say`It was recorded at the wrong place. What it said stays here; what was done stands at the site it was done at.`}</T>
        </Notice>
        <Corrections facts={facts} counting={counting} zone={zone} />
      </View>
    )
  if (!visit)
    return (
      <Empty
        title={say`Not in the book yet`}
        text={say`This visit has not reached the server. If it was done on this device it is sent when there is a network.`}
      />
    )
  const stageOf = (id: string) => system?.stages.find((stage) => stage.id === id)
  const steps = state.done.size
  return (
    <View className="gap-5">
      <T kind="quiet">{`${visit.systemName} · ${visit.personName} · ${instantText(visit.begunAt, zone)}${visit.outcome ? ` · ${OUTCOME_WORDS[visit.outcome]}` : say` · not finished`}`}</T>
      <ReadingsTable {...state.readings} />
      <View className="gap-2">
        <T kind="heading" level={2}>
          {say`Parts`}
        </T>
        {[...state.fitted.values()].map((fitted) => {
          const stage = stageOf(fitted.stageId)
          const removed = state.removed.get(fitted.stageId)
          return (
            <View key={fitted.id} className="border-t-2 border-line pt-2">
              <T kind="strong">{`${fitted.position} · ${stage ? stageName(stage) : say`stage`} · ${fitted.partNumber}`}</T>
              {removed ? (
                <T kind="quiet">{say`Taken out: ${gradeWord(removed.found)}${removed.dirtPast ? say`, dirt had got past it` : ''}`}</T>
              ) : null}
              <T kind="small">{say`on the part: ${fitted.markText}`}</T>
              <Photos visitId={visitId} stageId={fitted.stageId} kept={page.photos} />
            </View>
          )
        })}
        {state.fitted.size === 0 ? <T kind="quiet">{say`No part was fitted.`}</T> : null}
      </View>
      {state.holds.map((hold) => (
        <T
          key={hold.id}
        >{say`Hold: ${holdWords(hold.holdKind)}. ${hold.text}${hold.until ? say` Until ${instantText(hold.until, zone)}.` : ''}`}</T>
      ))}
      {state.finished ? (
        <T>{say`${steps} steps ticked · monitor ${state.finished.monitorReset === null ? say`none` : state.finished.monitorReset ? say`reset` : say`not reset`} · customer ${state.finished.customerTold ? say`told` : say`not told`}${state.finished.note ? `. Note: ${state.finished.note}` : ''}`}</T>
      ) : null}
      {(state.finished?.leftStanding ?? []).length > 0 ? (
        <T kind="strong">{say`Left like this: ${(state.finished?.leftStanding ?? []).join(' ')}`}</T>
      ) : null}
      <Corrections facts={facts} counting={counting} zone={zone} />
      <CorrectVisit page={page} state={state} />
    </View>
  )
}

function words(fact: Fact): string {
  if (fact.kind === 'tds-reading') return `${READ[fact.water][fact.phase]}: ${mgL(fact)} mg/L`
  if (fact.kind === 'part-removed') return say`found ${fact.found}`
  if (fact.kind === 'part-fitted') return say`fitted ${fact.partNumber} at ${fact.position}`
  if (fact.kind === 'step-done') return say`tick of ${fact.stepKey}`
  if (fact.kind === 'block-done') return say`${fact.steps.length} ticks of “${fact.block}”`
  if (fact.kind === 'hold-begun') return say`hold ${holdWords(fact.holdKind)}`
  return fact.kind.replaceAll('-', ' ')
}

/** What was corrected or taken back, struck through, with when it had been written. */
function Corrections({ facts, counting, zone }: { facts: readonly StoredFact[]; counting: ReadonlySet<string>; zone: string }) {
  const corrected = facts.filter(({ fact }) => !counting.has(fact.id) && !fact.voided)
  if (corrected.length === 0) return null
  return (
    <View className="gap-1">
      <T kind="heading" level={2}>
        {say`Corrected or withdrawn`}
      </T>
      {corrected.map(({ fact }) => (
        <T key={fact.id} kind="quiet" className="line-through">
          {`${words(fact)} (${instantText(fact.at, zone)})`}
        </T>
      ))}
    </View>
  )
}
