import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../../ui/later'

const StopScreen = later(async () => (await import('../../../../features/stop/stop')).StopScreen)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <StopScreen key={id} id={id} />
}
