import { useLocalSearchParams } from 'expo-router'
import { SitePage } from '../../../features/site/site-page'

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <SitePage key={id} id={id} />
}
