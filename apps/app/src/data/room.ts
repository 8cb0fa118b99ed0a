import { create } from 'zustand'

interface Room {
  /** The device took nothing the last time something was to be kept on it. */
  full: boolean
  /** Ids of what was recorded and stands in this page alone. */
  unkept: ReadonlySet<string>
}

/** Whether the device still has room for what is recorded on it. */
export const useRoom = create<Room>(() => ({ full: false, unkept: new Set() }))

const spares: (() => Promise<unknown>)[] = []
/** Says how to throw away something that the server has as well, for when the device is full. */
export const mayGo = (spare: () => Promise<unknown>): void => void spares.push(spare)

const tried = (write: () => Promise<unknown>): Promise<boolean> =>
  write().then(
    () => true,
    () => false,
  )

/** It is sent, or was taken back: nothing is lost with this page any more. */
export function letGo(ids: readonly string[]): void {
  const { unkept } = useRoom.getState()
  if (ids.some((id) => unkept.has(id))) useRoom.setState({ unkept: new Set([...unkept].filter((id) => !ids.includes(id))) })
}

/**
 * Writes onto the device. Where it takes nothing, what the server has too makes room and it is tried once more; then these ids stand in this
 * page alone, which the person is told, and the work goes on: it is sent as if it were kept.
 */
export async function keep(ids: readonly string[], write: () => Promise<unknown>): Promise<void> {
  if (await tried(write)) {
    if (useRoom.getState().full) useRoom.setState({ full: false })
    letGo(ids)
    return
  }
  for (const spare of spares) await tried(spare)
  const kept = await tried(write)
  useRoom.setState(({ unkept }) => ({ full: !kept, unkept: kept ? unkept : new Set([...unkept, ...ids]) }))
}

/** A short text under a name; where the device takes it not, it holds until the page is closed. */
export function keepText(key: string, text: string): void {
  try {
    localStorage.setItem(key, text)
  } catch {
    useRoom.setState({ full: true })
  }
}

if (typeof window !== 'undefined') {
  window.addEventListener('beforeunload', (event) => {
    if (useRoom.getState().unkept.size > 0) event.preventDefault()
  })
}
