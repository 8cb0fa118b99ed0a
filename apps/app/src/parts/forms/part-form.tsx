import type { PartDto } from '@evenround/contract/shelf'
import { monthsToDays } from '@evenround/core/catalogue'
import { parseQuantity, type ShownUnits, unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Controller, useForm } from 'react-hook-form'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { queryClient } from '../../data/queries'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { Tick } from '../../ui/choice'
import { Field } from '../../ui/field'
import { bare } from '../../ui/format'
import { localDecimal } from '../../ui/locale'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

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
  ['months', say`Calendar life`, 'months', 16],
  ['litres', say`Rated for`, 'L', 16],
  ['milliequivalents', say`Capacity`, 'meq', 16],
  ['hours', say`Lamp hours`, 'h', 16],
]
const RATED = ['months', 'litres', 'milliequivalents', 'hours'] as const

const text = (value: number | null): string => (value === null ? '' : String(Math.round(value * 100) / 100))
const toForm = ({ partNumber, maker, name, rated, priceMinor, barcode, supplier }: PartDto, units: ShownUnits): Form => ({
  partNumber,
  maker,
  name,
  months: rated.days === null ? '' : String(Math.round((10 * rated.days) / DAYS_PER_MONTH) / 10),
  litres: rated.litres === null ? '' : bare(rated.litres, 'volume', units),
  milliequivalents: text(rated.milliequivalents),
  hours: text(rated.hours),
  price: (priceMinor / 100).toFixed(2),
  barcode,
  supplier,
})

/** A positive number, null for an empty field, or a problem. */
function positive(typed: string, key: keyof Form, units: ShownUnits): number | null | 'bad' {
  const volume = key === 'litres'
  const parsed = parseQuantity(typed, {
    dimension: volume ? 'volume' : 'number',
    gallon: units.gallon,
    decimal: localDecimal(),
    ...(volume ? { unit: unitOf('volume', units).parse } : {}),
  })
  if (parsed.ok) return parsed.value > 0 ? parsed.value : 'bad'
  return parsed.reason === 'empty' ? null : 'bad'
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
  const { control, handleSubmit, setError, formState } = useForm<Form>({ defaultValues: before })
  const [fittedToo, setFittedToo] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const save = handleSubmit(async (form) => {
    setProblem(null)
    const numbers = RATED.map((key) => [key, positive(form[key], key, units)] as const)
    for (const [key, value] of numbers)
      if (value === 'bad') setError(key, { message: say`A number above 0, or empty where it does not end by that` })
    const price = parseQuantity(form.price, { dimension: 'number', decimal: localDecimal() })
    if (!price.ok || price.value < 0) setError('price', { message: say`A price such as 16.80` })
    if (numbers.some(([, value]) => value === 'bad') || !price.ok || price.value < 0) return
    const [months, litres, milliequivalents, hours] = numbers.map(([, value]) => value as number | null)
    // Months that nobody touched keep the days they came from.
    const days = months === null || months === undefined ? null : form.months === before.months ? part.rated.days : months * DAYS_PER_MONTH
    const ratedLitres = form.litres === before.litres ? part.rated.litres : (litres ?? null)
    const rated = { days, litres: ratedLitres, milliequivalents: milliequivalents ?? null, hours: hours ?? null }
    const { partNumber, maker, name, barcode, supplier } = form
    try {
      const json = {
        version: part.version,
        partNumber,
        maker,
        name,
        rated,
        priceMinor: Math.round(price.value * 100),
        barcode,
        supplier,
        fittedToo,
        equivalents: [...equivalents],
      }
      await ask(api.parts[':id'].$put({ param: { id: part.id }, json }))
      for (const root of ['shelf', 'due', 'stage', 'site', 'today', 'stop']) void queryClient.invalidateQueries({ queryKey: [root] })
      onDone()
    } catch (error) {
      if (error instanceof ApiProblem)
        for (const { path, message } of error.fields) setError((path === 'priceMinor' ? 'price' : path) as keyof Form, { message })
      setProblem(error instanceof Error ? error.message : say`It could not be saved.`)
    }
  })
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <View className="flex-row flex-wrap gap-3">
        {FIELDS.map(([key, label, unit, most]) => (
          <Controller
            key={key}
            name={key}
            control={control}
            render={({ field, fieldState }) => (
              <Field
                className="min-w-[150px] flex-1"
                label={label}
                {...(unit ? { unit: key === 'litres' ? unitOf('volume', units).text : unit, inputMode: 'decimal' as const } : {})}
                value={field.value}
                onChangeText={field.onChange}
                maxLength={most}
                error={fieldState.error?.message}
              />
            )}
          />
        ))}
        <Controller
          name="price"
          control={control}
          render={({ field, fieldState }) => (
            <Field
              className="min-w-[150px] flex-1"
              label={say`Price`}
              unit={currency}
              inputMode="decimal"
              value={field.value}
              onChangeText={field.onChange}
              maxLength={12}
              error={fieldState.error?.message}
            />
          )}
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
      {problem ? (
        <Notice tone="danger" title={say`Not saved`} live>
          <T>{problem}</T>
        </Notice>
      ) : null}
      <View className="flex-row gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        <Button label={say`Save`} kind="act" grow disabled={formState.isSubmitting} onPress={() => void save()} />
      </View>
    </View>
  )
}
