import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const SiteLife = later(async () => (await import('../../../features/site/site-life')).SiteLife)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <SiteLife key={id} id={id} />
}
