import type { KindDto } from '@evenround/contract/kinds'
import { OWN_CAUSES, type OwnCause } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import { Controller, useWatch } from 'react-hook-form'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { queryClient } from '../../data/queries'
import { askedIn, useUnits } from '../../data/units'
import { FieldProblem, FormChoice, FormEnd, FormField, FormQuantity } from '../../parts/forms/form-fields'
import { readWhole } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { stageName } from '../../parts/wear/words'
import { Tick } from '../../ui/choice'
import { T } from '../../ui/text'

type Fields = Omit<KindDto, 'id' | 'version'>
type Flushing = 'none' | 'with' | 'alone'
/** As it is typed: the flush in three fields, the cautions a line each. */
interface Typed {
  name: string
  causes: OwnCause[]
  lifeMonths: number | null
  ratedLitres: number | null
  soakHours: number | null
  flushing: Flushing
  flushLitres: number | null
  flushMinutes: number | null
  endUp: KindDto['endUp']
  cautions: string
}

const CAUSES: Record<OwnCause, { label: string; hint: string }> = {
  calendar: { label: say`Time`, hint: say`Changed after so many months, used or not` },
  throughput: { label: say`Litres`, hint: say`What it is rated for by its label` },
  pressure: { label: say`Pressure drop or flow loss`, hint: say`Read by the gauges before and after it` },
  breakthrough: { label: say`Chlorine after it`, hint: say`Read by a strip, where the water is chlorinated` },
}
const takesLitres = (causes: readonly OwnCause[]): boolean => causes.includes('throughput')
const takesLife = (causes: readonly OwnCause[]): boolean => causes.some((cause) => cause !== 'throughput')

/** A flush begins at these where none was said before. */
const USUAL_FLUSH = { flushLitres: 8, flushMinutes: 10 }
const EMPTY: Typed = {
  name: '',
  causes: ['calendar'],
  lifeMonths: 12,
  ratedLitres: null,
  soakHours: null,
  flushing: 'with',
  ...USUAL_FLUSH,
  endUp: 'either',
  cautions: '',
}
const typedOf = ({ name, causes, lifeMonths, ratedLitres, soakHours, flush, endUp, cautions }: KindDto): Typed => ({
  name,
  causes,
  lifeMonths,
  ratedLitres,
  soakHours,
  flushing: flush === null ? 'none' : flush.alone ? 'alone' : 'with',
  flushLitres: flush?.litres ?? USUAL_FLUSH.flushLitres,
  flushMinutes: flush?.minutes ?? USUAL_FLUSH.flushMinutes,
  endUp,
  cautions: cautions.join('\n'),
})

const schema = readWhole<Typed, Fields>((typed) => {
  const { causes, lifeMonths, soakHours, flushing, flushLitres: litres, flushMinutes: minutes, endUp } = typed
  const ratedLitres = takesLitres(causes) ? typed.ratedLitres : null
  const problems: Partial<Record<keyof Typed, string>> = {}
  const name = typed.name.trim()
  if (name === '') problems.name = say`Name is required`
  if (causes.length === 0) problems.causes = say`Choose at least one thing that ends it.`
  if (takesLife(causes) && lifeMonths === null) problems.lifeMonths = say`Type how many months it usually lasts`
  if (takesLitres(causes) && ratedLitres === null) problems.ratedLitres = say`Type what it is rated for by its label`
  if (flushing !== 'none' && minutes === null) problems.flushMinutes = say`Type how long it is flushed`
  if (flushing !== 'none' && litres === null) problems.flushLitres = say`Type how much goes through it`
  if (Object.keys(problems).length > 0) return { problems }
  const flush = flushing === 'none' || litres === null || minutes === null ? null : { litres, minutes, alone: flushing === 'alone' }
  const cautions = typed.cautions.split('\n').flatMap((line) => (line.trim() === '' ? [] : [line.trim()]))
  return { read: { name, causes, lifeMonths, ratedLitres, soakHours, flush, endUp, cautions } }
})

/** The field that a refusal of the server's belongs to. */
const fieldOf = (path: string): keyof Typed =>
  path === 'flush.litres'
    ? 'flushLitres'
    : path === 'flush.minutes'
      ? 'flushMinutes'
      : path.startsWith('cautions')
        ? 'cautions'
        : (path as keyof Typed)

/** What a kind of the firm's own is; its name is given once, since everything fitted goes by it. */
export function OwnKindForm({ kind, onDone }: { kind: KindDto | null; onDone: () => void }) {
  const units = useUnits()
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: kind ? typedOf(kind) : EMPTY,
    version: kind?.version ?? 0,
    fieldOf,
    save: async ({ name, ...fields }, version) => {
      if (kind) await ask(api.kinds[':name'].$put({ param: { name: kind.name }, json: { version, ...fields } }))
      else await ask(api.kinds.$post({ json: { name, ...fields } }))
      await queryClient.invalidateQueries()
      onDone()
    },
  })
  const [causes, flushing] = useWatch({ control, name: ['causes', 'flushing'] })
  const wide = 'min-w-[180px] flex-1'
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3" role="group" aria-label={kind ? kind.name : say`New kind`}>
      {kind ? (
        <T kind="heading" level={3}>
          {stageName({ media: kind.id })}
        </T>
      ) : (
        <FormField
          control={control}
          name="name"
          label={say`Name of the kind`}
          maxLength={60}
          hint={say`As you say it: ceramic candle. It stays as it is.`}
        />
      )}
      <T kind="label">{say`What ends it`}</T>
      <Controller
        control={control}
        name="causes"
        render={({ field: { value, onChange }, fieldState: { error } }) => (
          <View className="gap-1">
            <View className="flex-row flex-wrap gap-2">
              {OWN_CAUSES.map((cause) => (
                <View key={cause} className="min-w-[240px] flex-1">
                  <Tick
                    {...CAUSES[cause]}
                    {...(cause === 'throughput' && units.volume === 'gal' ? { label: say`Gallons` } : {})}
                    value={value.includes(cause)}
                    onChange={(on) => onChange(OWN_CAUSES.filter((one) => (one === cause ? on : value.includes(one))))}
                  />
                </View>
              ))}
            </View>
            <FieldProblem text={error?.message} />
          </View>
        )}
      />
      <View className="flex-row flex-wrap gap-3">
        {takesLife(causes) ? (
          <FormQuantity
            control={control}
            name="lifeMonths"
            className={wide}
            label={say`Usual life`}
            dimension="number"
            unit=""
            unitText={say`months`}
            least={0.1}
          />
        ) : null}
        {takesLitres(causes) ? (
          <FormQuantity
            control={control}
            name="ratedLitres"
            className={wide}
            label={say`Rated for`}
            {...askedIn('volume', units)}
            least={1}
          />
        ) : null}
        <FormQuantity
          control={control}
          name="soakHours"
          className={wide}
          label={say`Soaks before it is used`}
          dimension="number"
          unit=""
          unitText="h"
          least={0.1}
          hint={say`Empty where it needs no soak. A bed in a tank soaks in place until a second visit; anything else soaks in a clean vessel.`}
        />
      </View>
      <FormChoice
        control={control}
        name="flushing"
        label={say`Flushed before it is used`}
        options={[
          { value: 'none', label: say`No flush` },
          { value: 'with', label: say`With the others` },
          { value: 'alone', label: say`Alone, later housings empty` },
        ]}
      />
      {flushing === 'none' ? null : (
        <View className="flex-row flex-wrap gap-3">
          <FormQuantity
            control={control}
            name="flushMinutes"
            className={wide}
            label={say`For at least`}
            dimension="number"
            unit=""
            unitText={say`min`}
            least={0.5}
          />
          <FormQuantity
            control={control}
            name="flushLitres"
            className={wide}
            label={say`And at least`}
            {...askedIn('volume', units)}
            least={0.5}
          />
        </View>
      )}
      <FormChoice
        control={control}
        name="endUp"
        label={say`Which way it goes in`}
        options={[
          { value: 'washer', label: say`Washer to the head` },
          { value: 'arrow', label: say`By its arrow` },
          { value: 'either', label: say`Either way` },
        ]}
      />
      <FormField
        control={control}
        name="cautions"
        label={say`Cautions, a line each`}
        multiline
        maxLength={1000}
        hint={say`They stand on the steps at which it comes out and goes in. What its own label says comes first.`}
      />
      <FormEnd problem={problem} busy={busy} act={kind ? say`Save` : say`Add this kind`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
