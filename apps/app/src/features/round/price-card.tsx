import type { RoundSet } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { T } from '../../ui/text'
import { type CarryPrices, signed, termsOf, whyNot } from './price'
import { weekdayLong, weekdayWord } from './words'

interface PriceCardProps {
  set: RoundSet
  visitId: string
  prices: CarryPrices
  /** `technician/day` it would be let go on. */
  to: string
}

/** What carrying costs, before it is let go: in all, and term by term. */
export function PriceCard({ set, visitId, prices, to }: PriceCardProps) {
  const [technician = '', dayText = '0'] = to.split('/')
  const day = Number(dayText)
  const name = set.visits.find(({ id }) => id === visitId)?.siteName ?? ''
  const price = prices.to.get(to)
  const from = prices.now ? weekdayLong(set.days[prices.now.day] ?? set.today) : say`no day`
  const target = set.days[day] ?? set.today
  if (!price)
    return (
      <Card tone="border-copper">
        <T kind="strong">{say`${name} cannot go to ${weekdayWord(target)}`}</T>
        <T>{say`There ${whyNot(set, visitId, { technician, day })}.`}</T>
      </Card>
    )
  const total = price.total - (prices.now?.total ?? price.total)
  const best = prices.best
  return (
    <Card tone="border-kelp">
      <View className="flex-row flex-wrap items-baseline justify-between gap-2">
        <T kind="strong">{say`${name} from ${from} to ${weekdayWord(target)}?`}</T>
        <T>
          <T kind="strong" className={total > 0.5 ? 'text-copper-text' : 'text-lichen-text'} testID="price-total">
            {signed(total)}
          </T>
          {say` in all`}
        </T>
      </View>
      <View className="flex-row flex-wrap gap-x-5 gap-y-1">
        {termsOf(prices.now, price).map(({ words, minutes }) => (
          <T key={words}>
            {`${words} `}
            <T kind="strong">{signed(minutes).replace(' min', '')}</T>
          </T>
        ))}
      </View>
      {prices.now && best ? (
        <T kind="quiet">{say`Where it stands the next best is ${weekdayWord(set.days[best.day] ?? '')} (${signed(best.total - prices.now.total)}).`}</T>
      ) : null}
    </Card>
  )
}

function Card({ tone, children }: { tone: string; children: React.ReactNode }) {
  return (
    <View role="status" testID="price-card" className={`gap-2 rounded-card border-2 bg-sheet px-4 py-3 ${tone}`}>
      {children}
    </View>
  )
}
