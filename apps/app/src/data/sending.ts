const FIRST_WAIT_MS = 1_000
const LONGEST_WAIT_MS = 60_000

/**
 * How long to wait after so many failures in a row: twice as long each time, up to a minute, and never all devices at one moment.
 * `chance` is from 0 to below 1.
 */
export const waitAfter = (failures: number, chance: number): number =>
  Math.round(Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** Math.max(0, failures - 1)) * (0.5 + chance / 2))

/** How sending a batch ended: settled by the server, refused for good as it stands, or to be tried again. */
export type Sent = 'settled' | 'refused' | 'later'

interface Sender<T> {
  /** How many one request carries. */
  most: number
  /** What still waits, in order. */
  waiting: () => readonly T[]
  /** Sends these; throws nothing. */
  send: (batch: readonly T[]) => Promise<Sent>
  /** Keeps one that the server refuses as it stands apart, to be looked at. */
  quarantine: (one: T) => Promise<void>
}

/**
 * Sends all that waits, in order. A batch that is refused as a whole is sent by halves until the one is found that it is refused for:
 * that one is kept apart, and those behind it go on. False when sending has to be tried again later.
 */
export async function sendAll<T>({ most, waiting, send, quarantine }: Sender<T>): Promise<boolean> {
  let size = most
  for (;;) {
    const batch = waiting().slice(0, size)
    const [first] = batch
    if (first === undefined) return true
    const sent = await send(batch)
    if (sent === 'later') return false
    if (sent === 'settled') size = most
    else if (batch.length > 1) size = Math.ceil(batch.length / 2)
    else {
      await quarantine(first)
      size = most
    }
  }
}

interface LineOptions {
  /** One tab of the device holds it while it sends: order is kept, and nothing is sent twice. */
  lock: string
  /** Whether something may be sent now. */
  wanted: () => boolean
  /** Sends all that waits; false when it has to be tried again later. */
  sendWaiting: () => Promise<boolean>
  /** How the last try ended. */
  onTried: (good: boolean) => void
}

/** A line of things to be sent: one try at a time over all tabs; after trouble again by itself, ever later. */
export function sendingLine({ lock, wanted, sendWaiting, onTried }: LineOptions) {
  let sending = false
  let failures = 0
  let again: ReturnType<typeof setTimeout> | undefined
  const flush = async (): Promise<void> => {
    if (sending || !wanted()) return
    sending = true
    clearTimeout(again)
    let good = false
    try {
      good = await navigator.locks.request(lock, sendWaiting)
      failures = good ? 0 : failures + 1
      if (!good) again = setTimeout(() => void flush(), waitAfter(failures, Math.random()))
      onTried(good)
    } finally {
      sending = false
    }
    // What was written while the last batch was on its way.
    if (good) void flush()
  }
  return {
    flush,
    /** The network is back: the wait is over. */
    flushNow: (): Promise<void> => {
      failures = 0
      return flush()
    },
  }
}
