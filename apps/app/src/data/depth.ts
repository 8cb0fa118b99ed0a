import { useLocal } from './local'
import { useMe } from './queries'

/** How a person wants run sheets, on this device: blocks ticked at once, or every step. */
export function useDepth(): ['blocks' | 'every-step', (depth: 'blocks' | 'every-step') => void] {
  const person = useMe().data?.person.id ?? ''
  const [depth, setDepth] = useLocal<'blocks' | 'every-step'>(`even-round.depth.${person}`, 'every-step')
  return [depth, setDepth]
}
