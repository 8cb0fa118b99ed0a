import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const SiteHoursPage = later(async () => (await import('../../../features/times')).SiteHoursPage)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <SiteHoursPage key={id} siteId={id} />
}
