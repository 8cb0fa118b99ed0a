import type { KindDto } from '@evenround/contract/kinds'
import { OWN_CAUSES, type OwnCause } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask, fieldError, problemText } from '../../data/api'
import { queryClient } from '../../data/queries'
import { askedIn, useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'

type Fields = Omit<KindDto, 'id' | 'name' | 'version'>
type Flushing = 'none' | 'with' | 'alone'

const CAUSES: Record<OwnCause, { label: string; hint: string }> = {
  calendar: { label: say`Time`, hint: say`Changed after so many months, used or not` },
  throughput: { label: say`Litres`, hint: say`What it is rated for by its label` },
  pressure: { label: say`Pressure drop or flow loss`, hint: say`Read by the gauges before and after it` },
  breakthrough: { label: say`Chlorine after it`, hint: say`Read by a strip, where the water is chlorinated` },
}
const EMPTY: Fields = {
  causes: ['calendar'],
  lifeMonths: 12,
  ratedLitres: null,
  soakHours: null,
  flush: { litres: 8, minutes: 10, alone: false },
  endUp: 'either',
  cautions: [],
}
/** A flush begins at these where none was said before. */
const USUAL_FLUSH = { litres: 8, minutes: 10 }

/** What a kind of the firm's own is; its name is given once, since everything fitted goes by it. */
export function OwnKindForm({ kind, onDone }: { kind: KindDto | null; onDone: () => void }) {
  const units = useUnits()
  const [name, setName] = useState(kind?.name ?? '')
  const [typed, setTyped] = useState<Fields>(() => (kind ? fieldsOf(kind) : EMPTY))
  const [cautions, setCautions] = useState(typed.cautions.join('\n'))
  const [error, setError] = useState<unknown>(null)
  const [asked, setAsked] = useState(false)
  const set = (patch: Partial<Fields>): void => setTyped((before) => ({ ...before, ...patch }))
  const { causes, flush } = typed
  const takesLitres = causes.includes('throughput')
  const takesLife = causes.some((cause) => cause !== 'throughput')
  const flushing: Flushing = flush === null ? 'none' : flush.alone ? 'alone' : 'with'
  const ready =
    name.trim() !== '' &&
    causes.length > 0 &&
    (!takesLitres || typed.ratedLitres !== null) &&
    (!takesLife || typed.lifeMonths !== null) &&
    (flush === null || (flush.litres > 0 && flush.minutes > 0))
  const save = async (): Promise<void> => {
    setAsked(true)
    if (!ready) return
    const lines = cautions.split('\n').flatMap((line) => (line.trim() === '' ? [] : [line.trim()]))
    const json = { ...typed, ratedLitres: takesLitres ? typed.ratedLitres : null, cautions: lines }
    try {
      if (kind) await ask(api.kinds[':name'].$put({ param: { name: kind.name }, json: { version: kind.version, ...json } }))
      else await ask(api.kinds.$post({ json: { name: name.trim(), ...json } }))
      await queryClient.invalidateQueries()
      onDone()
    } catch (failure) {
      setError(failure)
    }
  }
  const flushAs = (next: Flushing): void => set({ flush: next === 'none' ? null : { ...USUAL_FLUSH, ...flush, alone: next === 'alone' } })
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3" role="group" aria-label={kind ? kind.name : say`New kind`}>
      {kind ? (
        <T kind="heading" level={3}>
          {stageName({ media: kind.id })}
        </T>
      ) : (
        <Field
          label={say`Name of the kind`}
          value={name}
          onChangeText={setName}
          maxLength={60}
          hint={say`As you say it: ceramic candle. It stays as it is.`}
          error={fieldError(error, 'name') ?? (asked && name.trim() === '' ? say`Name is required` : undefined)}
        />
      )}
      <T kind="label">{say`What ends it`}</T>
      <View className="flex-row flex-wrap gap-2">
        {OWN_CAUSES.map((cause) => (
          <View key={cause} className="min-w-[240px] flex-1">
            <Tick
              {...CAUSES[cause]}
              {...(cause === 'throughput' && units.volume === 'gal' ? { label: say`Gallons` } : {})}
              value={causes.includes(cause)}
              onChange={(on) => set({ causes: OWN_CAUSES.filter((one) => (one === cause ? on : causes.includes(one))) })}
            />
          </View>
        ))}
      </View>
      {asked && causes.length === 0 ? <T className="text-oxblood">{say`Choose at least one thing that ends it.`}</T> : null}
      <View className="flex-row flex-wrap gap-3">
        {takesLife ? (
          <QuantityField
            className="min-w-[180px] flex-1"
            label={say`Usual life`}
            dimension="number"
            unit=""
            unitText="months"
            value={typed.lifeMonths}
            onChange={(lifeMonths) => set({ lifeMonths })}
            least={0.1}
          />
        ) : null}
        {takesLitres ? (
          <QuantityField
            className="min-w-[180px] flex-1"
            label={say`Rated for`}
            {...askedIn('volume', units)}
            value={typed.ratedLitres}
            onChange={(ratedLitres) => set({ ratedLitres })}
            least={1}
          />
        ) : null}
        <QuantityField
          className="min-w-[180px] flex-1"
          label={say`Soaks before it is used`}
          dimension="number"
          unit=""
          unitText="h"
          value={typed.soakHours}
          onChange={(soakHours) => set({ soakHours })}
          least={0.1}
          hint={say`Empty where it needs no soak. A bed in a tank soaks in place until a second visit; anything else soaks in a clean vessel.`}
        />
      </View>
      <Choice
        label={say`Flushed before it is used`}
        value={flushing}
        options={[
          { value: 'none', label: say`No flush` },
          { value: 'with', label: say`With the others` },
          { value: 'alone', label: say`Alone, later housings empty` },
        ]}
        onChange={flushAs}
      />
      {flush ? (
        <View className="flex-row flex-wrap gap-3">
          <QuantityField
            className="min-w-[180px] flex-1"
            label={say`For at least`}
            dimension="number"
            unit=""
            unitText="min"
            value={flush.minutes}
            onChange={(minutes) => set({ flush: { ...flush, minutes: minutes ?? 0 } })}
            least={0.5}
          />
          <QuantityField
            className="min-w-[180px] flex-1"
            label={say`And at least`}
            {...askedIn('volume', units)}
            value={flush.litres}
            onChange={(litres) => set({ flush: { ...flush, litres: litres ?? 0 } })}
            least={0.5}
          />
        </View>
      ) : null}
      <Choice
        label={say`Which way it goes in`}
        value={typed.endUp}
        options={[
          { value: 'washer', label: say`Washer to the head` },
          { value: 'arrow', label: say`By its arrow` },
          { value: 'either', label: say`Either way` },
        ]}
        onChange={(endUp) => set({ endUp })}
      />
      <Field
        label={say`Cautions, a line each`}
        multiline
        value={cautions}
        onChangeText={setCautions}
        maxLength={1000}
        hint={say`They stand on the steps at which it comes out and goes in. What its own label says comes first.`}
        error={fieldError(error, 'cautions')}
      />
      {asked && !ready && name.trim() !== '' && causes.length > 0 ? (
        <T className="text-oxblood">{say`Fill in the figures above.`}</T>
      ) : null}
      {error && !fieldError(error, 'name') ? (
        <T className="text-oxblood" role="alert">
          {problemText(error)}
        </T>
      ) : null}
      <View className="flex-row flex-wrap gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        <Button label={kind ? say`Save` : say`Add this kind`} kind="act" grow onPress={() => void save()} />
      </View>
    </View>
  )
}

const fieldsOf = ({ id: _, name: __, version: ___, ...fields }: KindDto): Fields => fields
