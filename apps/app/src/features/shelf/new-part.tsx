import type { KindDto } from '@evenround/contract/kinds'
import { HOUSING_PROFILES, HOUSINGS, type Housing, type Medium, profileOf, ratedAs } from '@evenround/core/catalogue'
import { parseQuantity } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { api, ask, fieldError } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { mediumGroups } from '../../parts/catalogue/medium-groups'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { localDecimal } from '../../ui/locale'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

const EMPTY = { partNumber: '', maker: '', name: '', price: '', barcode: '', supplier: '' }

/** A part the firm did not have: begins at its medium's figures, which its own row then changes. */
export function NewPart({ currency, kinds, onDone }: { currency: string; kinds: readonly KindDto[]; onDone: () => void }) {
  const [typed, setTyped] = useState(EMPTY)
  const [media, setMedia] = useState<Medium | ''>('')
  const [housing, setHousing] = useState<Housing | ''>('')
  const [error, setError] = useState<unknown>(null)
  const [asked, setAsked] = useState(false)
  const price = parseQuantity(typed.price, { dimension: 'number', decimal: localDecimal() })
  const priceBad = !price.ok || price.value < 0
  const ready =
    typed.partNumber.trim() !== '' && typed.maker.trim() !== '' && typed.name.trim() !== '' && media !== '' && housing !== '' && !priceBad
  const save = async (): Promise<void> => {
    setAsked(true)
    if (!ready || !price.ok) return
    try {
      const { partNumber, maker, name, barcode, supplier } = typed
      const json = {
        id: uuidv7(),
        partNumber,
        maker,
        name,
        media,
        housing,
        rated: ratedAs(profileOf({ media, own: kinds.find(({ id }) => id === media) })),
        priceMinor: Math.round(price.value * 100),
        barcode,
        supplier,
      }
      await ask(api.parts.$post({ json }))
      await queryClient.invalidateQueries({ queryKey: KEY.shelf })
      onDone()
    } catch (failure) {
      setError(failure)
    }
  }
  const wanted = (text: string): string | undefined => (asked && text.trim() === '' ? say`Wanted` : undefined)
  const field = (key: keyof typeof EMPTY, label: string, most: number, problem: string | undefined, unit?: string) => (
    <Field
      className="min-w-[150px] flex-1"
      label={label}
      value={typed[key]}
      onChangeText={(text) => setTyped((before) => ({ ...before, [key]: text }))}
      maxLength={most}
      error={problem}
      {...(unit ? { unit, inputMode: 'decimal' as const } : {})}
    />
  )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <View className="flex-row flex-wrap gap-3">
        {field('partNumber', say`Part number`, 60, fieldError(error, 'partNumber') ?? wanted(typed.partNumber))}
        {field('maker', say`Maker`, 80, wanted(typed.maker))}
        {field('name', say`Name`, 120, wanted(typed.name))}
        {field('barcode', say`Bar code`, 40, fieldError(error, 'barcode'))}
        {field('supplier', say`Supplier`, 80, undefined)}
        {field('price', say`Price`, 12, asked && priceBad ? say`A price such as 16.80` : undefined, currency)}
      </View>
      <Select label={say`Medium`} none={say`Which medium?`} value={media} groups={mediumGroups(kinds)} onChange={setMedia} />
      <Select
        label={say`Housing`}
        none={say`Which housing?`}
        value={housing}
        groups={[{ label: say`Housing`, options: HOUSINGS.map((value) => ({ value, label: HOUSING_PROFILES[value].name })) }]}
        onChange={setHousing}
      />
      {asked && (media === '' || housing === '') ? <T className="text-oxblood">{say`Choose its medium and its housing.`}</T> : null}
      {error && !fieldError(error, 'partNumber') && !fieldError(error, 'barcode') ? (
        <T className="text-oxblood">{error instanceof Error ? error.message : say`It could not be saved.`}</T>
      ) : null}
      <View className="flex-row gap-3">
        <Button label={say`Cancel`} onPress={onDone} />
        <Button label={say`Add it`} kind="act" grow onPress={() => void save()} />
      </View>
    </View>
  )
}
