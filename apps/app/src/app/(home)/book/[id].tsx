import { useLocalSearchParams } from 'expo-router'
import { BookVisit } from '../../../features/book/book-visit'

export default function Route() {
  const { id } = useLocalSearchParams<{ id: string }>()
  return <BookVisit key={id} id={id} />
}
