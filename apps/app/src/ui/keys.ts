import { useLayoutEffect } from 'react'

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName))

/** Single keys at a desk; never while something is being typed, never with a modifier held. */
export function useKeys(keys: Record<string, () => void>): void {
  // With the screen, not after it: a key pressed the moment it stands is meant for it.
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return
      const act = keys[event.key]
      if (!act) return
      event.preventDefault()
      act()
    }
    window.addEventListener('keydown', onKey)
    return () => window.removeEventListener('keydown', onKey)
  }, [keys])
}
