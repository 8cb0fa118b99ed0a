import type { KindDto } from '@evenround/contract/kinds'
import type { PartDto } from '@evenround/contract/shelf'
import { mediumName } from '@evenround/core/catalogue'
import { useState } from 'react'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { EditMark } from '../../ui/edit-mark'
import { money } from '../../ui/format'
import { later } from '../../ui/later'
import { Empty } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { NewPart } from './new-part'
import { ratedWords } from './rated-words'

const PartForm = later(async () => (await import('../../parts/forms')).PartForm)

interface CatalogueProps {
  parts: readonly PartDto[]
  kinds: readonly KindDto[]
  currency: string
  mayEdit: boolean
}

/** The firm's parts: number, what it is rated at, its price, and what stands in for it. */
export function Catalogue({ parts, kinds, currency, mayEdit }: CatalogueProps) {
  const [editing, setEditing] = useState<string | null>(null)
  const [adding, setAdding] = useState(false)
  const units = useUnits()
  const numberOf = (id: string): string => parts.find((part) => part.id === id)?.partNumber ?? ''
  return (
    <View className="gap-3">
      {parts.length === 0 ? (
        <Empty title="No part yet" text="Add the parts you fit: forecasts, run sheets and the van list speak of them." />
      ) : null}
      <View>
        {parts.map((part) =>
          part.id === editing ? (
            <PartForm key={part.id} part={part} parts={parts} currency={currency} onDone={() => setEditing(null)} />
          ) : (
            <View key={part.id} className="flex-row items-center gap-3 border-t-2 border-line py-2">
              <View className="flex-1">
                <T kind="strong">{`${part.partNumber} · ${part.name}`}</T>
                <T kind="quiet">
                  {[part.maker, mediumName(part.media), ratedWords(part.rated, units), part.supplier].filter(Boolean).join(' · ')}
                </T>
                {part.equivalents.length > 0 ? (
                  <T kind="small">{`stands in for, and is stood in for by: ${part.equivalents.map(numberOf).join(', ')}`}</T>
                ) : null}
              </View>
              <T>{money(part.priceMinor, currency)}</T>
              {mayEdit ? <EditMark what={part.partNumber} onPress={() => setEditing(part.id)} /> : null}
            </View>
          ),
        )}
      </View>
      {adding ? <NewPart currency={currency} kinds={kinds} onDone={() => setAdding(false)} /> : null}
      {mayEdit && !adding ? (
        <View className="flex-row flex-wrap items-center gap-3">
          <Button label="Add a part" onPress={() => setAdding(true)} />
          <TextLink href="/parts-list" label="Import a parts list" />
        </View>
      ) : null}
    </View>
  )
}
