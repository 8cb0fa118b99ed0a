import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../../ui/later'

const Page = later(async () => (await import('../../../../features/disinfection')).JobPage)
const Planner = later(async () => (await import('../../../../features/disinfection')).Planner)

export default function Route() {
  const { id, site, after } = useLocalSearchParams<{ id: string; site?: string; after?: string }>()
  return id === 'new' ? <Planner siteId={site ?? ''} afterJob={after ?? null} /> : <Page key={id} id={id} />
}
