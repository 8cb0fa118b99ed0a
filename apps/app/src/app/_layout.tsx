import { say } from '@evenround/core/words'
import '../global.css'
import { QueryClientProvider } from '@tanstack/react-query'
import { loadAsync } from 'expo-font'
import { Slot } from 'expo-router'
import { queryClient } from '../data/queries'
import { startTheme } from '../data/theme'
import { Boundary } from '../ui/boundary'
import { FONTS } from '../ui/fonts'

startTheme()
// Words in a stand-in face beat no words: the fonts come when the first screen stands.
requestIdleCallback(() => void loadAsync(FONTS), { timeout: 1500 })

export default function Root() {
  return (
    <QueryClientProvider client={queryClient}>
      <Boundary what={say`Even Round had to stop here`}>
        <Slot />
      </Boundary>
    </QueryClientProvider>
  )
}
