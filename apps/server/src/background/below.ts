import { setPriority } from 'node:os'
import { isMainThread } from 'node:worker_threads'

/** A share of the processor, where there is not enough of it for all; least is 19. */
const BELOW_ANSWERS = 10

// Imported by every worker: heavy work gives way to the thread that answers everybody. Of Linux a thread has a priority of its own, and 0
// names the thread that asks; elsewhere it would be the whole process.
if (!isMainThread && process.platform === 'linux') setPriority(0, BELOW_ANSWERS)
