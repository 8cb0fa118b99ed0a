import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const DoorReading = later(async () => (await import('../../../features/readings/door')).DoorReading)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <DoorReading key={id} siteId={id} />
}
