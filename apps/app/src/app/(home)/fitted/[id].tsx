import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const WriteParts = later(async () => (await import('../../../features/site/write-parts')).WriteParts)

export default function Route() {
  const { id, stop } = useLocalSearchParams<{ id: string; stop?: string }>()
  return <WriteParts key={id} siteId={id} stopId={stop ?? null} />
}
