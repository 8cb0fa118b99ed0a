import type { Fact } from '@evenround/core/visit'

/** Facts a request carries. */
const BATCH = 100
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

interface Sender {
  /** What still waits, in order. */
  waiting: () => readonly Fact[]
  /** Sends these; throws nothing. */
  send: (facts: readonly Fact[]) => Promise<Sent>
  /** Keeps a fact that the server refuses as it stands apart, to be looked at. */
  quarantine: (fact: Fact) => Promise<void>
}

/**
 * Sends all that waits, in order. A batch that is refused as a whole is sent by halves until the one fact is found that it is refused for:
 * that one is kept apart, and those behind it go on. False when sending has to be tried again later.
 */
export async function sendAll({ waiting, send, quarantine }: Sender): Promise<boolean> {
  let size = BATCH
  for (;;) {
    const batch = waiting().slice(0, size)
    const [first] = batch
    if (first === undefined) return true
    const sent = await send(batch)
    if (sent === 'later') return false
    if (sent === 'settled') size = BATCH
    else if (batch.length > 1) size = Math.ceil(batch.length / 2)
    else {
      await quarantine(first)
      size = BATCH
    }
  }
}
