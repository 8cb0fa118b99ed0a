import { useLocalSearchParams } from 'expo-router'
import { later } from '../../../ui/later'

const BookVisit = later(async () => (await import('../../../features/book/book-visit')).BookVisit)

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <BookVisit key={id} id={id} />
}
