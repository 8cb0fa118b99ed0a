import { createHash, timingSafeEqual } from 'node:crypto'

const digest = (text: string): Buffer => createHash('sha256').update(text).digest()

/** What is kept of a secret address or link: found by it, and never read back. */
export const hashOfToken = (token: string): string => digest(token).toString('hex')

/** Whether two texts are the same, in a time that says nothing of where they differ. */
export const sameSecret = (given: string, wanted: string): boolean => timingSafeEqual(digest(given), digest(wanted))
