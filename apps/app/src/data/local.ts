import { useCallback, useState } from 'react'
import { keepText } from './room'

/** What was typed and chosen on this device, kept over a reload; unreadable storage counts as nothing kept. */
function read<T>(key: string, initial: T): T {
  const text = localStorage.getItem(key)
  if (text === null) return initial
  try {
    return JSON.parse(text) as T
  } catch {
    return initial
  }
}

const DRAFTS = ['even-round.measure.', 'even-round.gauges.', 'even-round.finish.', 'even-round.disinfect.'] as const
const LAST_PERSON = 'even-round.person'

/** On a shared device nobody sees what another one had begun to type: drafts go when somebody else signs in. */
export function draftsBelongTo(owner: string): void {
  const before = localStorage.getItem(LAST_PERSON)
  keepText(LAST_PERSON, owner)
  if (before === null || before === owner) return
  for (const key of Object.keys(localStorage)) if (DRAFTS.some((prefix) => key.startsWith(prefix))) localStorage.removeItem(key)
}

/** State that survives a reload, under a key of its own. */
export function useLocal<T>(key: string, initial: T): [T, (next: T | ((before: T) => T)) => void, () => void] {
  const [value, setValue] = useState<T>(() => read(key, initial))
  const put = useCallback(
    (next: T | ((before: T) => T)) =>
      setValue((before) => {
        const after = typeof next === 'function' ? (next as (before: T) => T)(before) : next
        keepText(key, JSON.stringify(after))
        return after
      }),
    [key],
  )
  const forget = useCallback(() => localStorage.removeItem(key), [key])
  return [value, put, forget]
}
