import { useLocal } from './local'
import { useMe } from './queries'

type Depth = 'blocks' | 'every-step'

/** How a person wants run sheets, on this device: blocks ticked at once, or every step. */
export function useDepth(): [Depth, (depth: Depth) => void] {
  const person = useMe().data?.person.id ?? ''
  const [depth, setDepth] = useLocal<Depth>(`even-round.depth.${person}`, 'every-step')
  return [depth, setDepth]
}
