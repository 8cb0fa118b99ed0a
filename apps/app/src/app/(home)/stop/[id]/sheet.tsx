import { useLocalSearchParams } from 'expo-router'
import { RunSheet } from '../../../../features/train/run-sheet'

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <RunSheet key={id} id={id} />
}
