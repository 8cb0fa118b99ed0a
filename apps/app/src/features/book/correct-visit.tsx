import type { VisitPageDto } from '@evenround/contract/book'
import type { StoredFact } from '@evenround/contract/visit'
import { effectiveFacts, type Fact, type FactOf, type VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { correct } from '../../data/corrections'
import { useMe } from '../../data/queries'
import { GRADES } from '../../parts/visit/grades'
import { OUTCOMES } from '../../parts/visit/outcomes'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { Field } from '../../ui/field'
import { localDecimal } from '../../ui/locale'
import { T } from '../../ui/text'
import { Card, stageTitle } from './correction-card'
import { MoveVisit } from './move-visit'
import { withPhase } from './phase-words'
import { StageReadingForm } from './stage-reading-form'

interface CorrectProps {
  page: VisitPageDto
  state: VisitState
}

/** Whether this person may correct a fact: one's own, or anybody's in the office. The server asks the same. */
export const mayCorrect = (stored: Pick<StoredFact, 'personId'>, me: { id: string; rights: readonly string[] }): boolean =>
  me.rights.includes('edit-sites') || (me.rights.includes('record-facts') && stored.personId === me.id)

/** What was recorded wrongly, said anew: the old stays beside it in the record. */
export function CorrectVisit({ page, state }: CorrectProps) {
  const me = useMe().data
  const [open, setOpen] = useState(false)
  if (!me || !page.visit) return null
  const counting = new Set(effectiveFacts(page.facts.map(({ fact }) => fact)).facts.map(({ id }) => id))
  const who = { id: me.person.id, rights: me.rights }
  const own = page.facts.filter((stored) => counting.has(stored.fact.id) && mayCorrect(stored, who))
  const all = page.facts.filter(({ fact }) => counting.has(fact.id))
  if (own.length === 0) return null
  if (!open)
    return (
      <View className="self-start">
        <Button label={say`Correct this visit`} onPress={() => setOpen(true)} />
      </View>
    )
  return (
    <View className="gap-3" role="group" aria-label={say`Corrections`}>
      <T kind="heading" level={2}>
        {say`What should it say?`}
      </T>
      <T kind="quiet">{say`What stands there now stays in the record, struck through, beside what you say.`}</T>
      {own.map(({ fact }) => (
        <CorrectFact key={fact.id} fact={fact} page={page} />
      ))}
      {own.length === all.length && page.system ? <MoveVisit page={page} state={state} /> : null}
      <View className="self-start">
        <Button label={say`Close`} onPress={() => setOpen(false)} />
      </View>
    </View>
  )
}

function CorrectFact({ fact, page }: { fact: Fact; page: VisitPageDto }) {
  switch (fact.kind) {
    case 'tds-reading':
      return <ReadingForm fact={fact} />
    case 'stage-reading':
      return <StageReadingForm fact={fact} page={page} />
    case 'part-removed':
      return <FindingForm fact={fact} title={stageTitle(page, fact.stageId)} />
    case 'part-fitted':
      return <PartForm fact={fact} title={stageTitle(page, fact.stageId)} />
    case 'visit-finished':
      return <FinishForm fact={fact} />
    default:
      return null
  }
}

function ReadingForm({ fact }: { fact: FactOf<'tds-reading'> }) {
  const [text, setText] = useState(String(fact.display))
  const [timesTen, setTimesTen] = useState(fact.multiplier === 10)
  const value = Number(localDecimal() === ',' ? text.replace(',', '.') : text)
  const valid = text.trim() !== '' && Number.isFinite(value) && value >= 0 && value <= 200_000
  const changed = value !== fact.display || timesTen !== (fact.multiplier === 10)
  return (
    <Card
      title={withPhase(fact.water === 'untreated' ? say`Untreated` : say`Treated`, fact.phase)}
      ready={valid && changed}
      fact={fact}
      onKeep={() => void correct(fact, { display: value, multiplier: timesTen ? 10 : 1, keptDespiteDoubt: true })}
    >
      <Field
        label={say`The meter showed`}
        value={text}
        onChangeText={setText}
        inputMode="decimal"
        maxLength={16}
        unit={fact.quantity === 'ec' ? say`µS/cm` : ''}
        error={valid ? undefined : say`A number, 0 or more`}
      />
      <Tick label={say`With its ×10 mark`} value={timesTen} onChange={setTimesTen} />
    </Card>
  )
}

function FindingForm({ fact, title }: { fact: FactOf<'part-removed'>; title: string }) {
  const [found, setFound] = useState(fact.found)
  return (
    <Card title={say`${title}: what came out`} ready={found !== fact.found} fact={fact} onKeep={() => void correct(fact, { found })}>
      <Choice
        label={say`How was it?`}
        value={found}
        options={GRADES.map(({ grade, word }) => ({ value: grade, label: word }))}
        onChange={setFound}
      />
    </Card>
  )
}

function PartForm({ fact, title }: { fact: FactOf<'part-fitted'>; title: string }) {
  const [number, setNumber] = useState(fact.partNumber)
  const next = number.trim()
  return (
    <Card
      title={say`${title}: what went in`}
      ready={next !== '' && next !== fact.partNumber}
      fact={fact}
      onKeep={() =>
        void correct(fact, { partNumber: next, partId: null, markText: fact.markText.replace(fact.partNumber, next).slice(0, 120) })
      }
    >
      <Field label={say`Part number`} value={number} onChangeText={setNumber} autoCapitalize="characters" maxLength={60} />
    </Card>
  )
}

function FinishForm({ fact }: { fact: FactOf<'visit-finished'> }) {
  const [outcome, setOutcome] = useState(fact.outcome)
  const [note, setNote] = useState(fact.note)
  const [told, setTold] = useState(fact.customerTold)
  const changed = outcome !== fact.outcome || note.trim() !== fact.note || told !== fact.customerTold
  return (
    <Card
      title={say`How it ended`}
      ready={changed}
      fact={fact}
      onKeep={() => void correct(fact, { outcome, note: note.trim(), customerTold: told })}
    >
      <Choice label={say`How did it go?`} value={outcome} options={OUTCOMES} onChange={setOutcome} />
      <Tick label={say`Customer told`} value={told} onChange={setTold} />
      <Field label={say`Note`} value={note} onChangeText={setNote} multiline maxLength={2000} />
    </Card>
  )
}
