import type { PartDto } from '@evenround/contract/shelf'
import { monthsToDays } from '@evenround/core/catalogue'
import { type ShownUnits, unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { api, ask } from '../../data/api'
import { queryClient } from '../../data/queries'
import { useUnits } from '../../data/units'
import { Tick } from '../../ui/choice'
import { bare } from '../../ui/format'
import { localDecimal } from '../../ui/locale'
import { T } from '../../ui/text'
import { FormEnd, FormField } from './form-fields'
import { optionalFigure, price, requiredLine } from './read'
import { useSavedForm } from './saved-form'

interface Form {
  partNumber: string
  maker: string
  name: string
  months: string
  litres: string
  milliequivalents: string
  hours: string
  price: string
  barcode: string
  supplier: string
}
const DAYS_PER_MONTH = monthsToDays(1)
const FIELDS: readonly [key: keyof Form, label: string, unit: string, most: number][] = [
  ['partNumber', say`Part number`, '', 60],
  ['maker', say`Maker`, '', 80],
  ['name', say`Name`, '', 120],
  ['barcode', say`Bar code`, '', 40],
  ['supplier', say`Supplier`, '', 80],
  ['months', say`Calendar life`, say`months`, 16],
  ['litres', say`Rated for`, 'L', 16],
  ['milliequivalents', say`Capacity`, 'meq', 16],
  ['hours', say`Lamp hours`, 'h', 16],
]

const text = (value: number | null): string => (value === null ? '' : String(Math.round(value * 100) / 100))
const toForm = ({ partNumber, maker, name, rated, priceMinor, barcode, supplier }: PartDto, units: ShownUnits): Form => ({
  partNumber,
  maker,
  name,
  months: rated.days === null ? '' : String(Math.round((10 * rated.days) / DAYS_PER_MONTH) / 10),
  litres: rated.litres === null ? '' : bare(rated.litres, 'volume', units),
  milliequivalents: text(rated.milliequivalents),
  hours: text(rated.hours),
  price: (priceMinor / 100).toFixed(2).replace('.', localDecimal()),
  barcode,
  supplier,
})

const NOT_ABOVE = say`A number above 0, or empty where it does not end by that`
const schemaIn = (units: ShownUnits) => {
  const rating = optionalFigure({ least: 0, above: true, most: 1e8, message: NOT_ABOVE })
  return z.object({
    partNumber: requiredLine(60, say`Wanted`),
    maker: requiredLine(80, say`Wanted`),
    name: requiredLine(120, say`Wanted`),
    barcode: z.string().check(z.trim()),
    supplier: z.string().check(z.trim()),
    months: rating,
    litres: optionalFigure({ least: 0, above: true, most: 1e8, message: NOT_ABOVE, volume: units }),
    milliequivalents: rating,
    hours: rating,
    price: price(),
  })
}

/** Edits one part of the catalogue. What is fitted keeps its rating unless the old figure was simply wrong. */
interface PartFormProps {
  part: PartDto
  /** The whole catalogue, for what can stand in. */
  parts: readonly PartDto[]
  currency: string
  onDone: () => void
}

export function PartForm({ part, parts, currency, onDone }: PartFormProps) {
  const units = useUnits()
  const before = toForm(part, units)
  const [equivalents, setEquivalents] = useState<readonly string[]>(part.equivalents)
  const standIns = parts.filter(({ id, media, housing }) => id !== part.id && media === part.media && housing === part.housing)
  const [fittedToo, setFittedToo] = useState(false)
  const { control, form, submit, problem, busy } = useSavedForm({
    schema: schemaIn(units),
    values: before,
    version: part.version,
    fieldOf: (path) => (path === 'priceMinor' ? 'price' : (path as keyof Form)),
    save: async ({ months, litres, milliequivalents, hours, price: priceMinor, ...names }, version) => {
      const typed = form.getValues()
      // Figures that nobody touched keep what they came from, whatever their rounding on the screen.
      const days = months === null ? null : typed.months === before.months ? part.rated.days : months * DAYS_PER_MONTH
      const rated = { days, litres: typed.litres === before.litres ? part.rated.litres : litres, milliequivalents, hours }
      const json = { version, ...names, rated, priceMinor, fittedToo, equivalents: [...equivalents] }
      await ask(api.parts[':id'].$put({ param: { id: part.id }, json }))
      for (const root of ['shelf', 'due', 'stage', 'site', 'today', 'stop']) void queryClient.invalidateQueries({ queryKey: [root] })
      onDone()
    },
  })
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <View className="flex-row flex-wrap gap-3">
        {FIELDS.map(([key, label, unit, most]) => (
          <FormField
            key={key}
            control={control}
            name={key}
            className="min-w-[150px] flex-1"
            label={label}
            maxLength={most}
            {...(unit ? { unit: key === 'litres' ? unitOf('volume', units).text : unit, inputMode: 'decimal' as const } : {})}
          />
        ))}
        <FormField
          control={control}
          name="price"
          className="min-w-[150px] flex-1"
          label={say`Price`}
          unit={currency}
          inputMode="decimal"
          maxLength={12}
        />
      </View>
      {standIns.length > 0 ? (
        <View className="gap-2">
          <T kind="label">{say`Stands in for, and the other way round`}</T>
          <View className="flex-row flex-wrap gap-2">
            {standIns.map(({ id, partNumber, maker }) => (
              <View key={id} className="min-w-[200px] flex-1">
                <Tick
                  label={partNumber}
                  hint={maker}
                  value={equivalents.includes(id)}
                  onChange={(on) => setEquivalents(on ? [...equivalents, id] : equivalents.filter((one) => one !== id))}
                />
              </View>
            ))}
          </View>
        </View>
      ) : null}
      <Tick
        label={say`The old figures were wrong`}
        hint={say`Corrects the parts in service that were rated by them; without it they keep what they were rated at`}
        value={fittedToo}
        onChange={setFittedToo}
      />
      <FormEnd problem={problem} busy={busy} act={say`Save`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
