import type { MediumProfileDto } from '@evenround/contract/shelf'
import { MEDIA_PROFILES, type MediaLimit } from '@evenround/core/catalogue'
import { parseQuantity, unitOf } from '@evenround/core/units'
import { usualLateDays } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { queryClient, useMe } from '../../data/queries'
import { useDueRules } from '../../data/rules'
import { useUnits } from '../../data/units'
import { FormEnd, FormField } from '../../parts/forms/form-fields'
import { readWhole } from '../../parts/forms/read'
import { useSavedForm } from '../../parts/forms/saved-form'
import { RuleForm } from '../../parts/wear/rule-form'
import { ruleText } from '../../parts/wear/rule-words'
import { Button } from '../../ui/button'
import { bare } from '../../ui/format'
import { localDecimal } from '../../ui/locale'
import { T } from '../../ui/text'
import { LIMIT_WORDS, limitBare, limitUnit, readLimit } from './limits'

type Figure = 'lifeMonths' | 'ratedLitres' | 'ratedHours'
const FIGURE_WORDS: Record<Figure, string> = { lifeMonths: say`Calendar life`, ratedLitres: say`Rated for`, ratedHours: say`Lamp hours` }
const FIGURES = ['lifeMonths', 'ratedLitres', 'ratedHours'] as const
type Typed = Record<string, string>
type Figures = Record<Figure, number | null> & { limits: Record<string, number>; lateDaysWorth: number | null }
const MOST: Record<Figure, number> = { lifeMonths: 240, ratedLitres: 1e8, ratedHours: 200_000 }

/** Days of life as typed; null for ours. */
function readLate(text: string): number | null | 'wrong' {
  if (text.trim() === '') return null
  const parsed = parseQuantity(text, { dimension: 'number', decimal: localDecimal() })
  return parsed.ok && parsed.value >= 0.5 && parsed.value <= 30 ? parsed.value : 'wrong'
}

/** The firm's own figures for a medium: what unrated parts are worth, and where readings end a part. */
export function MediumForm({ profile, onDone }: { profile: MediumProfileDto; onDone: () => void }) {
  const units = useUnits()
  const usual = MEDIA_PROFILES[profile.media]
  const limits = Object.keys(usual.limits) as MediaLimit[]
  const figureText = (figure: Figure): string => {
    const value = profile[figure]
    if (value === null) return ''
    return figure === 'ratedLitres' ? bare(value, 'volume', units) : String(Math.round(value * 100) / 100)
  }
  const values: Typed = {
    lifeMonths: figureText('lifeMonths'),
    ratedLitres: figureText('ratedLitres'),
    ratedHours: figureText('ratedHours'),
    late: profile.lateDaysWorth === null ? '' : String(profile.lateDaysWorth),
    ...Object.fromEntries(limits.map((limit) => [limit, limitBare(limit, profile.limits[limit] ?? 0, units)])),
  }
  const [ruling, setRuling] = useState(false)
  const rules = useDueRules().data
  const today = useMe().data?.today ?? ''
  const ownRule = rules?.media.find(({ media }) => media === profile.media)?.rule ?? null
  const usualLate = usualLateDays(profile.media)
  const readFigure = (figure: Figure, typed: Typed): { value: number | null } | { error: string } => {
    const text = (typed[figure] ?? '').trim()
    if (text === '') return { value: null }
    const volume = figure === 'ratedLitres'
    const parsed = parseQuantity(text, {
      dimension: volume ? 'volume' : 'number',
      gallon: units.gallon,
      decimal: localDecimal(),
      ...(volume ? { unit: unitOf('volume', units).parse } : {}),
    })
    if (!parsed.ok || parsed.value <= 0 || parsed.value > MOST[figure])
      return { error: say`A number above 0, or empty where it does not end by that` }
    // A figure nobody touched keeps what it was, whatever its rounding on the screen.
    return { value: text === figureText(figure) ? profile[figure] : parsed.value }
  }
  const { control, submit, problem, busy } = useSavedForm({
    schema: readWhole<Typed, Figures>((typed) => {
      const figures = FIGURES.map((figure) => [figure, readFigure(figure, typed)] as const)
      const read = limits.map((limit) => [limit, readLimit(limit, typed[limit] ?? '', units, localDecimal())] as const)
      const problems = Object.fromEntries([...figures, ...read].flatMap(([key, one]) => ('error' in one ? [[key, one.error]] : [])))
      const lateDaysWorth = readLate(typed.late ?? '')
      if (lateDaysWorth === 'wrong') problems.late = say`Between 0.5 and 30 days, or empty for ours`
      if (lateDaysWorth === 'wrong' || Object.keys(problems).length > 0) return { problems }
      const own = figures.map(([key, one]) => [key, 'value' in one ? one.value : null])
      const limited = read.map(([key, one]) => [key, 'value' in one ? one.value : 0])
      return { read: { ...Object.fromEntries(own), limits: Object.fromEntries(limited), lateDaysWorth } as Figures }
    }),
    values,
    version: profile.version,
    save: async (read, version) => {
      try {
        await ask(api.media[':media'].$put({ param: { media: profile.media }, json: { version, ...read } }))
      } catch (error) {
        if (error instanceof ApiProblem && error.code === 'STALE_VERSION') void queryClient.invalidateQueries({ queryKey: ['shelf'] })
        throw error
      }
      for (const root of ['shelf', 'due', 'stage', 'site', 'today', 'stop']) void queryClient.invalidateQueries({ queryKey: [root] })
      onDone()
    },
  })
  const unitFor = (figure: Figure): string =>
    figure === 'lifeMonths' ? say`months` : figure === 'ratedHours' ? 'h' : unitOf('volume', units).text
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <T kind="heading" level={2}>{`${usual.name.charAt(0).toUpperCase()}${usual.name.slice(1)}`}</T>
      <T kind="small">{say`Lives count for parts that come with no figure of their own; limits count for every part of this medium, at once.`}</T>
      <View className="flex-row flex-wrap gap-3">
        {[
          ...FIGURES.map((key) => ({ key, label: FIGURE_WORDS[key], unit: unitFor(key) })),
          ...limits.map((key) => ({ key, label: say`Replace at: ${LIMIT_WORDS[key]}`, unit: limitUnit(key, units) })),
        ].map(({ key, label, unit }) => (
          <FormField
            key={key}
            control={control}
            name={key}
            className="min-w-[220px] flex-1"
            label={label}
            unit={unit}
            inputMode="decimal"
            maxLength={16}
          />
        ))}
      </View>
      <FormField
        control={control}
        name="late"
        label={say`A day too late costs as much as`}
        unit={say`days of its life`}
        inputMode="decimal"
        maxLength={6}
        hint={say`Complaints, the next stage fouled, water nobody should drink. Empty is ours: ${usualLate}. The round pulls it forward by this; due days stay.`}
      />
      <View className="gap-2">
        <T kind="label">{say`The day to change: ${ownRule ? ruleText(ownRule, today) : say`as the firm has it`}`}</T>
        {rules && ruling ? (
          <RuleForm
            place={{ level: 'medium', about: profile.media }}
            rule={ownRule ?? rules.firm}
            takeBack={ownRule ? say`As the firm has it` : null}
            onDone={() => setRuling(false)}
          />
        ) : (
          <View className="self-start">
            <Button label={say`Choose it for this kind of part`} disabled={!rules} onPress={() => setRuling(true)} />
          </View>
        )}
      </View>
      <FormEnd problem={problem} busy={busy} act={say`Save`} onSubmit={submit} onCancel={onDone} />
    </View>
  )
}
