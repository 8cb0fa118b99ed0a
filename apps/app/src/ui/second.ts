import { startTransition, useEffect, useState } from 'react'

/** False at the first drawing, true right after it: what is needed at once comes first on a slow phone. */
export function useSecond(): boolean {
  const [second, setSecond] = useState(false)
  useEffect(() => {
    const timer = setTimeout(() => startTransition(() => setSecond(true)), 0)
    return () => clearTimeout(timer)
  }, [])
  return second
}
