import type { FirmDto } from '@evenround/contract/firm'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { api, ask } from '../../data/api'
import { queryClient } from '../../data/queries'
import { FormChoice, FormEnd } from '../../parts/forms/form-fields'
import { useSavedForm } from '../../parts/forms/saved-form'
import { T } from '../../ui/text'

const VOLUMES = [
  { value: 'L', label: say`litres` },
  { value: 'gal', label: say`gallons` },
] as const
const GALLONS = [
  { value: 'us', label: say`US, 3.785 L` },
  { value: 'imperial', label: say`imperial, 4.546 L` },
] as const
const PRESSURES = [
  { value: 'kPa', label: say`kPa` },
  { value: 'bar', label: say`bar` },
  { value: 'psi', label: say`psi` },
] as const
const TEMPERATURES = [
  { value: 'C', label: say`°C` },
  { value: 'F', label: say`°F` },
] as const

const schema = z.object({
  volume: z.enum(['L', 'gal']),
  gallon: z.enum(['us', 'imperial']),
  pressure: z.enum(['kPa', 'bar', 'psi']),
  temperature: z.enum(['C', 'F']),
})

/** What the firm's screens and papers speak; another unit can be typed after any number all the same. */
export function UnitsForm({ firm, mayEdit }: { firm: FirmDto; mayEdit: boolean }) {
  const { control, form, submit, problem, busy } = useSavedForm({
    schema,
    values: { ...firm.units, gallon: firm.gallon },
    version: firm.version,
    save: async ({ gallon, ...units }, version) => {
      const { name, schools } = firm
      await ask(api.firm.$put({ json: { version, name, gallon, units, schools } })).finally(() => queryClient.invalidateQueries())
    },
  })
  return (
    <View className="gap-4">
      <T kind="heading" level={2}>
        {say`Units`}
      </T>
      <FormChoice control={control} name="volume" label={say`Volume`} options={VOLUMES} mayEdit={mayEdit} />
      <FormChoice control={control} name="gallon" label={say`A gallon is`} options={GALLONS} mayEdit={mayEdit} />
      <FormChoice control={control} name="pressure" label={say`Pressure`} options={PRESSURES} mayEdit={mayEdit} />
      <FormChoice control={control} name="temperature" label={say`Temperature`} options={TEMPERATURES} mayEdit={mayEdit} />
      <T kind="small">
        {say`Another unit can be typed after any number: 45 psi, 12 gal, 3 bar. Records are kept metric, so nothing is lost by a change.`}
      </T>
      {mayEdit ? (
        <FormEnd problem={problem} busy={busy} disabled={!form.formState.isDirty} act={say`Save the units`} onSubmit={submit} />
      ) : null}
    </View>
  )
}
