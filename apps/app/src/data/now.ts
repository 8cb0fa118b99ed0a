import { useEffect, useState } from 'react'

/** The present instant, again every `everyMs` while the screen is open; null stops the clock. */
export function useNow(everyMs: number | null): string {
  const [now, setNow] = useState(() => new Date().toISOString())
  useEffect(() => {
    if (everyMs === null) return
    setNow(new Date().toISOString())
    const timer = setInterval(() => setNow(new Date().toISOString()), everyMs)
    return () => clearInterval(timer)
  }, [everyMs])
  return now
}
