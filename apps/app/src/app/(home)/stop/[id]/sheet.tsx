import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../../ui/later'

const RunSheet = later(async () => (await import('../../../../features/train/run-sheet')).RunSheet)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <RunSheet key={id} id={id} />
}
