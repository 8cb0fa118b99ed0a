import { useLocalSearchParams } from 'expo-router'
import { Finish } from '../../../../features/visit/finish'

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <Finish key={id} id={id} />
}
