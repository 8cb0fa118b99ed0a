import { useLocalSearchParams } from 'expo-router'
import { Measure } from '../../../../features/readings/measure'

export default function Route() {
  const { id, phase } = useLocalSearchParams<{ id: string; phase?: string }>()
  return <Measure key={`${id}-${phase}`} id={id} phase={phase === 'after' ? 'after' : 'before'} />
}
