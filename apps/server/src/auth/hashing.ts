import { hash } from '@node-rs/argon2'
import { FairGate } from '../http/gate'

/** Argon2id with the library's defaults of the current OWASP advice: 19 MiB, two passes, one lane. */
const ARGON = { memoryCost: 19_456, timeCost: 2, parallelism: 1 } as const
export const hashOf = (password: string): Promise<string> => hash(password, ARGON)

/** Hashing is made dear on purpose: only so much of it at once, or whoever guesses keeps everybody else from working. */
export const hashing = new FairGate({ atOnce: 2, waiting: 64, waitingEach: 8 })

export const hashPassword = (password: string): Promise<string> => hashing.run('new', () => hashOf(password))
