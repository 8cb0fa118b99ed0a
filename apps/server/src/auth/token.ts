import { createHash } from 'node:crypto'

/** What is kept of a secret address or link: found by it, and never read back. */
export const hashOfToken = (token: string): string => createHash('sha256').update(token).digest('hex')
