import type { HoldDto } from '@evenround/contract/site'
import { HOLD_ORDER, SAFETY_HOLDS } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { liftHold } from '../../data/hold-acts'
import { useNow } from '../../data/now'
import { useOutbox } from '../../data/outbox'
import { useMe } from '../../data/queries'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { instantText } from '../../ui/format'
import { T } from '../../ui/text'
import { holdWords } from './hold-words'
import { Told } from './told'

const MINUTE_MS = 60_000

interface HoldLinesProps {
  holds: readonly HoldDto[]
  siteId: string
  contact?: string
  /** Whether it is said who was told, and asked: where the sheet has its own step for it, it is not. */
  told?: boolean
}

/** Holds nobody lifted, the strictest first: each with its end or what lifts it; one that is over asks to be lifted. */
export function HoldLines({ holds, siteId, contact = '', told = false }: HoldLinesProps) {
  const now = useNow(holds.length > 0 ? MINUTE_MS : null)
  const lifted = useOutbox(({ entries }) =>
    entries.flatMap(({ fact, state }) => (fact.kind === 'hold-lifted' && state !== 'refused' ? [fact.holdId] : [])).join(),
  )
  const open = holds.filter(({ id }) => !lifted.split(',').includes(id))
  if (open.length === 0) return null
  const ordered = [...open].sort((a, b) => HOLD_ORDER.indexOf(a.holdKind) - HOLD_ORDER.indexOf(b.holdKind))
  return (
    <View className="gap-2">
      {ordered.map((hold) => (
        <HoldLine key={hold.id} hold={hold} siteId={siteId} contact={told ? contact : null} now={now} />
      ))}
    </View>
  )
}

interface HoldLineProps {
  hold: HoldDto
  siteId: string
  /** Null: not asked here who was told. */
  contact: string | null
  now: string
}

function HoldLine({ hold, siteId, contact, now }: HoldLineProps) {
  const me = useMe().data
  const zone = me?.firm.timeZone ?? 'UTC'
  const { id, holdKind, until, text } = hold
  const over = until !== null && Date.parse(until) <= Date.parse(now)
  const bySafety = SAFETY_HOLDS.includes(holdKind) && !over
  const mayLift = bySafety ? me?.rights.includes('lift-safety-hold') === true : over && me?.rights.includes('record-facts') === true
  const lift = (proof: string): void => void liftHold(siteId, uuidv7(), id, proof)
  return (
    <View className={`gap-2 rounded-card border-2 bg-sheet px-3 py-2 ${over ? 'border-lichen' : 'border-oxblood'}`}>
      <T>
        <T
          kind="strong"
          className={over ? 'text-lichen-text' : 'text-oxblood'}
        >{`${over ? say`Over` : say`Hold`}: ${holdWords(holdKind)}. `}</T>
        {text}
        {over
          ? say` It ended ${instantText(until, zone)}.`
          : until === null
            ? holdKind === 'do-not-use'
              ? say` Until strips show it is out again.`
              : say` Until a result lifts it.`
            : say` Until ${instantText(until, zone)}.`}
      </T>
      {contact !== null && SAFETY_HOLDS.includes(holdKind) && !over ? <Told hold={hold} siteId={siteId} contact={contact} /> : null}
      {!mayLift ? null : over ? (
        <View className="self-start">
          <Button label={say`Lift it: the customer knows`} onPress={() => lift(say`Its time is over and the customer was told.`)} />
        </View>
      ) : (
        <LiftByProof onLift={lift} />
      )}
    </View>
  )
}

/** A hold for safety goes only with what proves that it may. */
function LiftByProof({ onLift }: { onLift: (proof: string) => void }) {
  const [open, setOpen] = useState(false)
  const [proof, setProof] = useState('')
  const [asked, setAsked] = useState(false)
  if (!open) {
    return (
      <View className="self-start">
        <Button label={say`Lift it with its proof`} onPress={() => setOpen(true)} />
      </View>
    )
  }
  return (
    <View className="gap-2">
      <Field
        label={say`What proves it`}
        value={proof}
        onChangeText={setProof}
        maxLength={300}
        hint={say`The strip at zero, or the laboratory’s result with its number and day`}
        error={asked && proof.trim() === '' ? say`A hold for safety is lifted only with its proof` : undefined}
      />
      <View className="self-start">
        <Button label={say`Lift the hold`} kind="danger" onPress={() => (proof.trim() === '' ? setAsked(true) : onLift(proof.trim()))} />
      </View>
    </View>
  )
}
