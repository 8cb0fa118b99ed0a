import { useEffect, useState } from 'react'
import { useWebRef } from './web-ref'

/** A view's ref: it is scrolled into view each time `times` rises above zero. */
export function useIntoView(times: number, block: ScrollLogicalPosition) {
  const [element, setElement] = useState<HTMLElement | null>(null)
  useEffect(() => {
    // Where nothing is laid out, as in tests, there is nothing to scroll.
    if (times > 0 && element && 'scrollIntoView' in element) element.scrollIntoView({ block, behavior: 'smooth' })
  }, [times, block, element])
  return useWebRef(setElement)
}
