import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const SitePage = later(async () => (await import('../../../features/site/site-page')).SitePage)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <SitePage key={id} id={id} />
}
