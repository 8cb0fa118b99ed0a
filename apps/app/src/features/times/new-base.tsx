import { formatPosition } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Controller } from 'react-hook-form'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import * as z from 'zod/mini'
import { useSites } from '../../data/queries'
import { saveBase, type Times } from '../../data/times'
import { FormEnd, FormField } from '../../parts/forms/form-fields'
import { requiredLine } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { PositionField, positionOf, positionProblem } from '../../parts/site/position-field'
import { Button } from '../../ui/button'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

/** More than anybody looks through. */
const MOST_TO_CHOOSE = 500

/** Somewhere vans start from, by its coordinates or those of a site. */
export function NewBase({ places }: { places: Times['places'] }) {
  const [open, setOpen] = useState(false)
  if (open) return <BaseForm places={places} onDone={() => setOpen(false)} />
  return (
    <View className="self-start">
      <Button label={say`Add a base`} onPress={() => setOpen(true)} />
    </View>
  )
}

const schemaBeside = (places: Times['places']) =>
  z.object({
    name: requiredLine(80).check(
      z.refine((name) => !places.some((place) => place.name === name.trim() && place.island === ''), say`There is a base of this name`),
    ),
    at: z.string().check(
      z.refine((text) => text.trim() !== '', say`Coordinates are required`),
      z.refine(
        (text) => text.trim() === '' || positionOf(text) !== null,
        say`Type latitude and longitude, such as 58.31, -21.62, or a whole open location code`,
      ),
    ),
  })

function BaseForm({ places, onDone }: { places: Times['places']; onDone: () => void }) {
  const { control, form, submit, problem, busy } = useSavedForm({
    schema: schemaBeside(places),
    values: { name: '', at: '' },
    save: async ({ name, at }) => {
      const position = positionOf(at)
      if (position === null) return
      await saveBase(uuidv7(), { name, ...position })
      onDone()
    },
  })
  const placed = (useSites(true).data?.sites ?? [])
    .flatMap(({ id, name, lat, lon }) => (lat == null || lon == null ? [] : [{ id, name, lat, lon }]))
    .slice(0, MOST_TO_CHOOSE)
  const takeFrom = (id: string): void => {
    const site = placed.find((one) => one.id === id)
    if (!site) return
    form.setValue('at', formatPosition(site), { shouldValidate: true })
    if (form.getValues('name').trim() === '') form.setValue('name', site.name, { shouldValidate: true })
  }
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="heading" level={2}>
        {say`New base`}
      </T>
      <FormField control={control} name="name" label={say`Name of the base`} maxLength={80} />
      <Controller
        control={control}
        name="at"
        render={({ field, fieldState }) => (
          <PositionField
            label={say`Where it is`}
            value={field.value}
            onChange={field.onChange}
            error={positionProblem(field.value) ?? fieldState.error?.message}
          />
        )}
      />
      {placed.length > 0 ? (
        <Select
          label={say`Or where one of your sites is`}
          none={say`Choose a site`}
          value=""
          groups={[{ label: say`Sites`, options: placed.map(({ id, name }) => ({ value: id, label: name })) }]}
          onChange={takeFrom}
        />
      ) : null}
      <FormEnd problem={problem} busy={busy} act={say`Add this base`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
