import { filledShare, type YearFigures, type YearPlanDto } from '@evenround/contract/year-page'
import { numberText, say } from '@evenround/core/words'
import { View } from 'react-native'
import { CompareHead, CompareRow } from '../../ui/compare-row'
import { duration, money, percent } from '../../ui/format'

export interface Worth {
  currency: string
  hourMinor: number
}

/** Minutes of a technician's time as money. */
export const worthOf = (minutes: number, { currency, hourMinor }: Worth): string => money(Math.round((minutes * hourMinor) / 60), currency)

/** Two years side by side. */
export function Compare({
  before,
  after,
  worth,
  words,
}: Pick<YearPlanDto, 'before' | 'after'> & { worth: Worth; words: [string, string] }) {
  const rows: [label: string, text: (figures: YearFigures) => string][] = [
    [say`workload imbalance`, ({ variation }) => `± ${Math.round(variation * 100)} %`],
    [say`hours filled`, (figures) => percent(Math.round(filledShare(figures.weeks) * 100) / 100)],
    [say`weeks over the hours`, ({ overWeeks }) => numberText(overWeeks)],
    [say`visits`, ({ visits }) => numberText(visits)],
    [say`at sites`, ({ workMin }) => duration(workMin)],
    [say`driving`, ({ travelMin }) => duration(travelMin)],
    [say`kilometres`, ({ km }) => (km === undefined ? '–' : say`${numberText(km)} km`)],
    [say`parts`, ({ partsMinor }) => money(partsMinor, worth.currency)],
    [say`unused part life`, ({ earlyMin }) => worthOf(earlyMin, worth)],
    [say`risk past the due day`, ({ lateMin }) => worthOf(lateMin, worth)],
  ]
  return (
    <View>
      <CompareHead a={words[0]} b={words[1]} />
      {rows.map(([label, text]) => (
        <CompareRow key={label} label={label} a={text(before)} b={text(after)} />
      ))}
    </View>
  )
}
