// Brings back what ended by itself: said, waited for a little longer each time, and given up when it never stays.
import { setTimeout as sleep } from 'node:timers/promises'

const FIRST_WAIT_MS = 1000
const LONGEST_WAIT_MS = 30_000
/** What stayed up so long begins again with the shortest wait. */
const STEADY_MS = 60_000
const MOST_TRIES = 6

/**
 * Watches one that is running (`ended` resolves when it ends, `stop()` ends it) and starts it anew with `again`.
 * `gaveUp` resolves with why where it ended too often; `stop` ends it for good.
 */
export function keepUp({ name, first, again, tell, now = Date.now, wait = sleep }) {
  let current = first
  let stopping = false
  const watch = async () => {
    let tries = 0
    for (;;) {
      const since = now()
      const how = await current.ended
      if (stopping) return null
      tries = now() - since > STEADY_MS ? 1 : tries + 1
      if (tries > MOST_TRIES) return `${name} ended ${tries} times in a row; the last time with ${how}.`
      const ms = Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (tries - 1))
      tell(`${name} ended by itself (${how}). Starting it again in ${ms / 1000} s.`)
      await wait(ms)
      if (stopping) return null
      try {
        current = await again()
        if (stopping) await current.stop()
        else tell(`${name} is back.`)
      } catch (error) {
        current = { ended: Promise.resolve(error.message), stop: async () => undefined }
      }
    }
  }
  const gaveUp = watch()
  return {
    gaveUp,
    stop: async () => {
      stopping = true
      await current.stop()
    },
  }
}
