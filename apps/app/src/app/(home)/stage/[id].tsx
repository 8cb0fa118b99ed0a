import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const StagePage = later(async () => (await import('../../../features/wear/stage-page')).StagePage)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <StagePage key={id} id={id} />
}
