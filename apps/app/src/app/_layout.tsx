import '../global.css'
import { QueryClientProvider } from '@tanstack/react-query'
import { loadAsync } from 'expo-font'
import { Slot } from 'expo-router'
import { queryClient } from '../data/queries'
import { startTheme } from '../data/theme'
import { FONTS } from '../ui/fonts'

startTheme()
// Not waited for: words in a stand-in face beat no words.
void loadAsync(FONTS)

export default function Root() {
  return (
    <QueryClientProvider client={queryClient}>
      <Slot />
    </QueryClientProvider>
  )
}
