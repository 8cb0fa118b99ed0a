import type { ChlorineDto } from '@evenround/contract/disinfections'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { api, ask, fieldError, problemText } from '../../data/api'
import { KEY, queryClient, useChlorine } from '../../data/queries'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { figure, shortDay } from '../../ui/format'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'

/** What a jug still holds today, from its label and its day. */
function nowText(product: ChlorineDto, today: string): string {
  if (product.form === 'solid')
    return say`${figure(product.percent)} % available chlorine, granules: keep dry, away from oil, never with liquid products`
  const label = say`${figure(product.percent)} % ${product.basis ?? ''} by its label`
  if (product.filledOn === null || product.percentNow === null || today === '') return label
  return say`${label}, filled ${shortDay(product.filledOn, today)}: about ${figure(product.percentNow)} % left`
}

const NEW: Omit<ChlorineDto, 'id' | 'percentNow'> = {
  version: 0,
  name: '',
  form: 'liquid',
  percent: 6,
  basis: 'w/v',
  densityKgL: null,
  strengthAs: 'available-chlorine',
  thickened: false,
  stabilised: false,
  filledOn: null,
  storedAtC: 18,
}

/** The firm's chlorine: what is dosed with, and what is left of it. */
export function ChlorineShelf({ mayEdit, today }: { mayEdit: boolean; today: string }) {
  const list = useChlorine()
  const [editing, setEditing] = useState<string | null>(null)
  const [fresh] = useState(() => uuidv7())
  if (!list.data)
    return list.error ? (
      <Failed what={say`The list cannot be shown`} error={list.error} onRetry={() => void list.refetch()} />
    ) : (
      <Waiting what={say`Loading`} />
    )
  const { products } = list.data
  return (
    <View className="gap-2">
      {products.length > 0 ? <TextLink href="/dose" label={say`Quick dose: how much for this water`} /> : null}
      {products.length === 0 ? (
        <Empty title={say`No chlorine yet`} text={say`Add what you dose with: its strength by the label, and the day it was filled.`} />
      ) : null}
      {products.map((product) =>
        editing === product.id ? (
          <ChlorineForm key={product.id} {...formOf(product)} onDone={() => setEditing(null)} />
        ) : (
          <View key={product.id} className="flex-row items-center gap-3 border-t-2 border-line py-3">
            <View className="flex-1">
              <T kind="strong">{product.name}</T>
              <T kind="quiet">{nowText(product, today)}</T>
            </View>
            {mayEdit ? <Button label={say`Edit`} onPress={() => setEditing(product.id)} /> : null}
          </View>
        ),
      )}
      {!mayEdit ? null : editing === fresh ? (
        <ChlorineForm id={fresh} product={NEW} onDone={() => setEditing(null)} />
      ) : (
        <View className="self-start">
          <Button label={say`Add a product`} onPress={() => setEditing(fresh)} />
        </View>
      )}
    </View>
  )
}

/** What of a product is edited: what is left of it is worked out. */
function formOf({ id, percentNow: _, ...product }: ChlorineDto) {
  return { id, product }
}

function ChlorineForm({ id, product, onDone }: { id: string; product: Omit<ChlorineDto, 'id' | 'percentNow'>; onDone: () => void }) {
  const { version, ...fields } = product
  const [typed, setTyped] = useState<Omit<typeof fields, 'percent'> & { percent: number | null }>(fields)
  const [error, setError] = useState<unknown>(null)
  const [asked, setAsked] = useState(false)
  const liquid = typed.form === 'liquid'
  const set = (patch: Partial<typeof typed>): void => setTyped((before) => ({ ...before, ...patch }))
  const save = async (): Promise<void> => {
    setAsked(true)
    const { percent } = typed
    if (typed.name.trim() === '' || percent === null) return
    const json = {
      ...typed,
      percent,
      version,
      basis: liquid ? typed.basis : null,
      densityKgL: liquid && typed.basis === 'w/w' ? typed.densityKgL : null,
    }
    try {
      await ask(api.chlorine[':id'].$put({ param: { id }, json }))
      await queryClient.invalidateQueries({ queryKey: KEY.chlorine })
      await queryClient.invalidateQueries({ queryKey: ['disinfection-setup'] })
      onDone()
    } catch (failure) {
      setError(failure)
    }
  }
  const problem = fieldError(error, 'densityKgL') ?? fieldError(error, 'filledOn') ?? fieldError(error, 'basis')
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Field
        label={say`Name`}
        value={typed.name}
        onChangeText={(name) => set({ name })}
        maxLength={120}
        error={asked && typed.name.trim() === '' ? say`Wanted` : undefined}
      />
      <Choice
        label={say`Form`}
        value={typed.form}
        options={[
          { value: 'liquid', label: say`Liquid` },
          { value: 'solid', label: say`Granules` },
        ]}
        onChange={(form) => set({ form, basis: form === 'liquid' ? (typed.basis ?? 'w/v') : null })}
      />
      <QuantityField
        label={say`Strength by the label`}
        dimension="number"
        unit=""
        unitText="%"
        value={typed.percent}
        onChange={(percent) => set({ percent })}
      />
      {liquid ? (
        <>
          <Choice
            label={say`Per cent of`}
            value={typed.basis}
            options={[
              { value: 'w/v', label: say`Volume (w/v, trade)` },
              { value: 'w/w', label: say`Weight (w/w)` },
            ]}
            onChange={(basis) => set({ basis })}
          />
          {typed.basis === 'w/w' ? (
            <QuantityField
              label={say`Density`}
              dimension="number"
              unit=""
              unitText="kg/L"
              value={typed.densityKgL}
              onChange={(densityKgL) => set({ densityKgL })}
            />
          ) : null}
          <Choice
            label={say`The label states`}
            value={typed.strengthAs}
            options={[
              { value: 'available-chlorine', label: say`Available chlorine` },
              { value: 'sodium-hypochlorite', label: say`Sodium hypochlorite` },
            ]}
            onChange={(strengthAs) => set({ strengthAs })}
          />
          <DayField
            label={say`Filled on`}
            value={typed.filledOn ?? ''}
            onChange={(day) => set({ filledOn: day === '' ? null : day })}
            hint={say`As it stands on the container; left empty it is asked at each job`}
          />
          <QuantityField
            label={say`Kept at about`}
            dimension="temperature"
            unit="c"
            unitText="°C"
            least={-2}
            value={typed.storedAtC}
            onChange={(storedAtC) => set({ storedAtC: storedAtC ?? 18 })}
          />
          <Tick
            label={say`Thickened, scented or with soap`}
            hint={say`Not for wells, tanks or pipes: it does not rinse out`}
            value={typed.thickened}
            onChange={(thickened) => set({ thickened })}
          />
        </>
      ) : null}
      <Tick
        label={say`Stabilised (cyanuric acid)`}
        hint={say`Pool chlorine: refused for wells, tanks and pipes that are drunk from`}
        value={typed.stabilised}
        onChange={(stabilised) => set({ stabilised })}
      />
      {error ? (
        <T role="alert" className="text-oxblood">
          {problem ?? problemText(error)}
        </T>
      ) : null}
      <View className="flex-row flex-wrap gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        <Button label={say`Save it`} kind="act" grow onPress={() => void save()} />
      </View>
    </View>
  )
}
