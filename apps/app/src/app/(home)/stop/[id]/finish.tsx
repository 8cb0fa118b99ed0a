import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../../ui/later'

const Finish = later(async () => (await import('../../../../features/visit/finish')).Finish)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <Finish key={id} id={id} />
}
