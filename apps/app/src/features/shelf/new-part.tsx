import type { KindDto } from '@evenround/contract/kinds'
import { HOUSING_PROFILES, HOUSINGS, type Housing, type Medium, profileOf, ratedAs } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import * as z from 'zod/mini'
import { api, ask } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { mediumGroups } from '../../parts/catalogue/medium-groups'
import { FormEnd, FormField, FormSelect } from '../../parts/forms/form-fields'
import { price, requiredLine } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'

const schema = z.object({
  partNumber: requiredLine(60, say`Wanted`),
  maker: requiredLine(80, say`Wanted`),
  name: requiredLine(120, say`Wanted`),
  barcode: z.string().check(z.trim()),
  supplier: z.string().check(z.trim()),
  price: price(),
  media: z.string().check(z.minLength(1, say`Which medium?`)),
  housing: z.string().check(z.minLength(1, say`Which housing?`)),
})
const EMPTY = { partNumber: '', maker: '', name: '', price: '', barcode: '', supplier: '', media: '', housing: '' }

/** A part the firm did not have: begins at its medium's figures, which its own row then changes. */
export function NewPart({ currency, kinds, onDone }: { currency: string; kinds: readonly KindDto[]; onDone: () => void }) {
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: EMPTY,
    fieldOf: (path) => (path === 'priceMinor' ? 'price' : (path as keyof typeof EMPTY)),
    save: async ({ price: priceMinor, ...read }) => {
      const media = read.media as Medium
      const rated = ratedAs(profileOf({ media, own: kinds.find(({ id }) => id === media) }))
      await ask(api.parts.$post({ json: { id: uuidv7(), ...read, media, housing: read.housing as Housing, rated, priceMinor } }))
      await queryClient.invalidateQueries({ queryKey: KEY.shelf })
      onDone()
    },
  })
  const wide = 'min-w-[150px] flex-1'
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <View className="flex-row flex-wrap gap-3">
        <FormField control={control} name="partNumber" label={say`Part number`} className={wide} maxLength={60} />
        <FormField control={control} name="maker" label={say`Maker`} className={wide} maxLength={80} />
        <FormField control={control} name="name" label={say`Name`} className={wide} maxLength={120} />
        <FormField control={control} name="barcode" label={say`Bar code`} className={wide} maxLength={40} />
        <FormField control={control} name="supplier" label={say`Supplier`} className={wide} maxLength={80} />
        <FormField control={control} name="price" label={say`Price`} className={wide} maxLength={12} unit={currency} inputMode="decimal" />
      </View>
      <FormSelect control={control} name="media" label={say`Medium`} none={say`Which medium?`} groups={mediumGroups(kinds)} />
      <FormSelect
        control={control}
        name="housing"
        label={say`Housing`}
        none={say`Which housing?`}
        groups={[{ label: say`Housing`, options: HOUSINGS.map((value) => ({ value, label: HOUSING_PROFILES[value].name })) }]}
      />
      <FormEnd problem={problem} busy={busy} act={say`Add it`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
