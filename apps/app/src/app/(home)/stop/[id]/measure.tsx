import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../../ui/later'

const Measure = later(async () => (await import('../../../../features/readings/measure')).Measure)

export default function Route() {
  const { id, phase } = useLocalSearchParams<{ id: string; phase?: string }>()
  return <Measure key={`${id}-${phase}`} id={id} phase={phase === 'after' ? 'after' : 'before'} />
}
