import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../../ui/later'

const Page = later(async () => (await import('../../../../features/disinfection')).CertificatePage)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <Page key={id} id={id} />
}
