import type { ChlorineDto } from '@evenround/contract/disinfections'
import { dose, STRENGTH_CEILING_MGL } from '@evenround/core/disinfection'
import { FIRST, GRANULES, HAZARDS } from '@evenround/core/job'
import { isIsoDay, unitOf } from '@evenround/core/units'
import { caution, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useLocal } from '../../data/local'
import { useChlorine, useMe } from '../../data/queries'
import { useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { BackLink } from '../../ui/back-link'
import { DayField } from '../../ui/day-field'
import { useDesk } from '../../ui/desk'
import { figure, inTrade, quantity } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Screen } from '../../ui/screen'
import { Select } from '../../ui/select'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { productOf } from './draft-plan'
import { unitFor } from './part-row'
import { amountText, REFUSAL_WORDS } from './words'

interface Asked {
  volumeL: number | null
  targetMgL: number | null
  demandMgL: number | null
  productId: string
  filledOn: string
}

/** Volume, product and strength, and how much goes in: without a job, for whoever only wants the figure. Nothing is recorded. */
export function QuickDose() {
  const chlorine = useChlorine()
  const today = useMe().data?.today ?? ''
  if (!chlorine.data || today === '')
    return (
      <Screen over={<BackLink href="/shelf?show=chlorine" label={say`Chlorine`} />} title={say`Quick dose`}>
        {chlorine.error ? (
          <Failed what={say`The list of chlorine cannot be shown`} error={chlorine.error} onRetry={() => void chlorine.refetch()} />
        ) : (
          <Waiting what={say`Loading`} />
        )}
      </Screen>
    )
  return <Form products={chlorine.data.products} today={today} />
}

function Form({ products, today }: { products: readonly ChlorineDto[]; today: string }) {
  const units = useUnits()
  const desk = useDesk()
  const first = products.find(({ stabilised }) => !stabilised) ?? products[0]
  const [asked, setAsked] = useLocal<Asked>('even-round.quick-dose', {
    volumeL: null,
    targetMgL: 50,
    demandMgL: 0,
    productId: first?.id ?? '',
    filledOn: first?.filledOn ?? today,
  })
  const [chosen, setChosen] = useState(0)
  const jug = products.find(({ id }) => id === asked.productId) ?? first
  const set = (patch: Partial<Asked>): void => setAsked((before) => ({ ...before, ...patch }))
  const concentration = { dimension: 'concentration', unit: 'mg/l', unitText: unitOf('concentration', units).text } as const
  if (!jug)
    return (
      <Screen over={<BackLink href="/shelf?show=chlorine" label={say`Chlorine`} />} title={say`Quick dose`}>
        <Empty
          title={say`No chlorine yet`}
          text={say`Add what you dose with to the shelf first: its strength by the label, and the day it was filled.`}
        />
      </Screen>
    )
  return (
    <Screen over={<BackLink href="/shelf?show=chlorine" label={say`Chlorine`} />} title={say`Quick dose`} wide>
      <View className={desk ? 'flex-row items-start gap-8' : 'gap-4'}>
        <View className={desk ? 'flex-1 gap-3' : 'gap-3'}>
          <QuantityField
            label={say`Water to treat`}
            {...unitFor('litres', units)}
            value={asked.volumeL}
            onChange={(volumeL) => set({ volumeL })}
          />
          <QuantityField
            label={say`Strength wanted`}
            {...concentration}
            value={asked.targetMgL}
            onChange={(targetMgL) => set({ targetMgL })}
          />
          <QuantityField
            label={say`What the water itself uses up`}
            {...concentration}
            value={asked.demandMgL}
            onChange={(demandMgL) => set({ demandMgL })}
            hint={say`Iron, sulphide, slime; nothing in clear water`}
          />
          <Select
            label={say`Product`}
            value={jug.id}
            none={say`Product from the shelf`}
            groups={[
              {
                label: say`On the shelf`,
                options: products.map(({ id, name, percent }) => ({ value: id, label: `${name} · ${percent} %` })),
              },
            ]}
            onChange={(productId) => {
              const next = products.find(({ id }) => id === productId)
              set({ productId, filledOn: next?.filledOn ?? today })
              setChosen(chosen + 1)
            }}
          />
          {jug.form === 'liquid' ? (
            <DayField
              key={chosen}
              label={say`Date on the container`}
              value={asked.filledOn}
              onChange={(filledOn) => set({ filledOn })}
              error={isIsoDay(asked.filledOn) ? undefined : say`Choose the day`}
            />
          ) : null}
        </View>
        <View className={desk ? 'w-[440px] gap-3' : 'gap-3'}>
          <Result asked={asked} jug={jug} today={today} />
        </View>
      </View>
    </Screen>
  )
}

function Result({ asked, jug, today }: { asked: Asked; jug: ChlorineDto; today: string }) {
  const units = useUnits()
  const { volumeL, targetMgL, filledOn } = asked
  if (jug.stabilised)
    return (
      <Notice tone="danger" title={say`Not for water that is drunk`}>
        <T>{REFUSAL_WORDS.stabilised}</T>
      </Notice>
    )
  if (!volumeL || !targetMgL || !isIsoDay(filledOn))
    return (
      <Notice tone="act" title={say`The dose stands here`}>
        <T>{say`Say how much water, and how strong.`}</T>
      </Notice>
    )
  if (targetMgL > STRENGTH_CEILING_MGL)
    return (
      <Notice tone="danger" title={inTrade(say`Over ${STRENGTH_CEILING_MGL} mg/L`, units)}>
        <T>
          {REFUSAL_WORDS['strength-needs-reason']}
          {say` Plan it as a job: the reason stands in its record.`}
        </T>
      </Notice>
    )
  const product = productOf(jug, filledOn, jug.storedAtC, today)
  const made = dose({ volumeL, targetMgL, demandMgL: asked.demandMgL ?? 0, product, pH: 7.5, waterC: 10, doses: 1 })
  const unit = made.perDoseMl === null ? 'g' : 'mL'
  const amount = made.perDoseMl ?? made.perDoseG ?? 0
  return (
    <>
      <View className="gap-1 rounded-card border-2 border-kelp bg-sheet p-4">
        <T kind="quiet">{say`For ${quantity(volumeL, 'volume', units)} of water`}</T>
        <T kind="figure" testID="quick-dose">
          {amountText(amount, unit, units)}
        </T>
        <T kind="strong">{jug.name}</T>
        <T>
          {inTrade(
            say`gives ${figure(targetMgL)} mg/L${asked.demandMgL ? say`, ${figure(asked.demandMgL)} used up by the water` : ''}`,
            units,
          )}
        </T>
        {unit === 'mL' ? (
          <T kind="quiet">{say`About ${figure(made.percentNow)} % is left of the label’s ${figure(jug.percent)} %.`}</T>
        ) : null}
        {made.ruleOfThumb ? (
          <T kind="quiet">
            {inTrade(
              say`One in a thousand, ${amountText(made.ruleOfThumb.ml, 'mL', units)}, would give ${figure(made.ruleOfThumb.givesMgL)} mg/L.`,
              units,
            )}
          </T>
        ) : null}
      </View>
      {made.warnings.includes('product-old') ? (
        <Notice tone="look" title={say`This jug has lost over four tenths`}>
          <T>{say`A fresh one is safer, or try it with a strip: one part in a thousand of water.`}</T>
        </Notice>
      ) : null}
      {made.warnings.includes('product-thickened') ? (
        <Notice tone="danger" title={say`Thickened product`}>
          <T>{say`It does not mix into a well and does not rinse out. Plain, unscented hypochlorite only.`}</T>
        </Notice>
      ) : null}
      <T>
        {unit === 'mL'
          ? caution`Into at least ten times as much water first, never the other way round.`
          : caution`Dissolved in a bucket of water first, never as granules.`}
      </T>
      <Notice tone="danger" title={say`Caution`}>
        <T>{unit === 'g' ? `${HAZARDS()} ${GRANULES()}` : HAZARDS()}</T>
      </Notice>
      <T kind="small">
        {say`Nothing is recorded here. A disinfection with its contact time, its flush and its proof is planned from the site. `}
        {FIRST()}
      </T>
    </>
  )
}
