import type { ChlorineDto } from '@evenround/contract/disinfections'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { useWatch } from 'react-hook-form'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { api, ask } from '../../data/api'
import { KEY, queryClient, useChlorine } from '../../data/queries'
import { FormChoice, FormDay, FormEnd, FormField, FormQuantity, FormTick } from '../../parts/forms/form-fields'
import { readWhole } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { Button } from '../../ui/button'
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

type Typed = Omit<ChlorineDto, 'id' | 'percentNow' | 'version' | 'percent' | 'basis' | 'filledOn' | 'storedAtC'> & {
  percent: number | null
  storedAtC: number | null
  basis: 'w/w' | 'w/v'
  /** Empty where nobody said it. */
  filledOn: string
}
type ChlorineEdit = Omit<ChlorineDto, 'id' | 'percentNow' | 'version'>

/** What a product is by its label, and what of that is still wanted: the fields of a liquid say nothing of granules. */
const schema = readWhole<Typed, ChlorineEdit>((typed) => {
  const liquid = typed.form === 'liquid'
  const byWeight = liquid && typed.basis === 'w/w'
  const { percent } = typed
  // Granules do not lose strength by warmth.
  const storedAtC = typed.storedAtC ?? (liquid ? null : NEW.storedAtC)
  const problems: Partial<Record<keyof Typed, string>> = {}
  if (typed.name.trim() === '') problems.name = say`Name is required`
  if (percent === null) problems.percent = say`Type the strength that stands on the label`
  if (byWeight && typed.densityKgL === null) problems.densityKgL = say`Type the density: a strength by weight needs it`
  if (storedAtC === null) problems.storedAtC = say`Type about how warm it is kept`
  if (percent === null || storedAtC === null || Object.keys(problems).length > 0) return { problems }
  const filledOn = typed.filledOn === '' ? null : typed.filledOn
  return {
    read: {
      ...typed,
      name: typed.name.trim(),
      percent,
      storedAtC,
      filledOn,
      basis: liquid ? typed.basis : null,
      densityKgL: byWeight ? typed.densityKgL : null,
    },
  }
})

function ChlorineForm({ id, product, onDone }: { id: string; product: Omit<ChlorineDto, 'id' | 'percentNow'>; onDone: () => void }) {
  const { version, ...fields } = product
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: { ...fields, basis: fields.basis ?? 'w/v', filledOn: fields.filledOn ?? '' },
    version,
    save: async (read, stands) => {
      await ask(api.chlorine[':id'].$put({ param: { id }, json: { ...read, version: stands } }))
      await queryClient.invalidateQueries({ queryKey: KEY.chlorine })
      await queryClient.invalidateQueries({ queryKey: ['disinfection-setup'] })
      onDone()
    },
  })
  const [form, basis] = useWatch({ control, name: ['form', 'basis'] })
  const liquid = form === 'liquid'
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <FormField control={control} name="name" label={say`Name`} maxLength={120} />
      <FormChoice
        control={control}
        name="form"
        label={say`Form`}
        options={[
          { value: 'liquid', label: say`Liquid` },
          { value: 'solid', label: say`Granules` },
        ]}
      />
      <FormQuantity control={control} name="percent" label={say`Strength by the label`} dimension="number" unit="" unitText="%" />
      {liquid ? (
        <>
          <FormChoice
            control={control}
            name="basis"
            label={say`Per cent of`}
            options={[
              { value: 'w/v', label: say`Volume (w/v, trade)` },
              { value: 'w/w', label: say`Weight (w/w)` },
            ]}
          />
          {basis === 'w/w' ? (
            <FormQuantity control={control} name="densityKgL" label={say`Density`} dimension="number" unit="" unitText="kg/L" />
          ) : null}
          <FormChoice
            control={control}
            name="strengthAs"
            label={say`The label states`}
            options={[
              { value: 'available-chlorine', label: say`Available chlorine` },
              { value: 'sodium-hypochlorite', label: say`Sodium hypochlorite` },
            ]}
          />
          <FormDay
            control={control}
            name="filledOn"
            label={say`Filled on`}
            hint={say`As it stands on the container; left empty it is asked at each job`}
          />
          <FormQuantity
            control={control}
            name="storedAtC"
            label={say`Kept at about`}
            dimension="temperature"
            unit="c"
            unitText="°C"
            least={-2}
          />
          <FormTick
            control={control}
            name="thickened"
            label={say`Thickened, scented or with soap`}
            hint={say`Not for wells, tanks or pipes: it does not rinse out`}
          />
        </>
      ) : null}
      <FormTick
        control={control}
        name="stabilised"
        label={say`Stabilised (cyanuric acid)`}
        hint={say`Pool chlorine: refused for wells, tanks and pipes that are drunk from`}
      />
      <FormEnd problem={problem} busy={busy} act={say`Save it`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
