import { useLocalSearchParams } from 'expo-router'
import { StopScreen } from '../../../../features/stop/stop'

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <StopScreen key={id} id={id} />
}
