import type { Context } from 'hono'
import { LRUCache } from 'lru-cache'
import type { WholeAnswer } from './answers'
import type { Env, Who } from './env'
import { languageAsked } from './language'
import { routeOf } from './rights'

/** Whom an answer is the same for, and whether ticks of run sheets change it. */
interface Kept {
  of: 'firm' | 'person'
  ticks?: true
}

/**
 * Pages that say the same for as long as nothing of the firm's records changes and the minute lasts: the same to everybody of the firm who
 * may see them, or to each person their own. A page that writes something down, or reads what stands outside of the firm's tables, is
 * none of them (`kept.test.ts`).
 */
export const KEPT_ROUTES: Readonly<Record<string, Kept>> = {
  'GET /api/me': { of: 'person' },
  'GET /api/firm': { of: 'firm' },
  'GET /api/today': { of: 'person' },
  'GET /api/week': { of: 'person' },
  'GET /api/offline': { of: 'person' },
  'GET /api/stops/{id}': { of: 'firm' },
  'GET /api/sites': { of: 'firm' },
  'GET /api/due': { of: 'firm' },
  'GET /api/book': { of: 'firm' },
  'GET /api/visits/{id}': { of: 'firm', ticks: true },
  'GET /api/shelf': { of: 'person' },
  'GET /api/office': { of: 'firm', ticks: true },
  'GET /api/round': { of: 'person' },
  'GET /api/round/week': { of: 'person' },
  'GET /api/year': { of: 'firm' },
}

/** Where an answer is kept, and of what state of the records and the clock it has to be. */
interface Place {
  key: string
  state: string
}

type Put = (whole: WholeAnswer | null) => void
type Taken = { whole: WholeAnswer } | { coming: Promise<WholeAnswer | null> } | { put: Put }

const MINUTE_MS = 60_000
/** An entry's own cost beside its bytes, roughly. */
const ENTRY_BYTES = 1024

const personKey = ({ personId, name, role, skills, secondMissing }: Who): string =>
  JSON.stringify([personId, name, role, skills, secondMissing])

/**
 * Answers that were worked out, each with the revision of the firm's records that was read before it: given out again only to a request
 * that read the same revision, so that no process needs to hear of what another one wrote. Who asks for what is being worked out waits
 * for it instead of asking the database for the same.
 */
export class KeptAnswers {
  readonly #made: LRUCache<string, { state: string; whole: WholeAnswer }>
  readonly #making = new Map<string, Promise<WholeAnswer | null>>()
  readonly #now: () => Date
  readonly #keeps: boolean

  /** With no bytes to keep anything in, each request is answered by itself. */
  constructor(now: () => Date, mostBytes: number) {
    this.#now = now
    this.#keeps = mostBytes > 0
    this.#made = new LRUCache({
      maxSize: Math.max(1, mostBytes),
      // The body, and again packed.
      sizeCalculation: ({ whole }, key) => 2 * whole.body.length + key.length + ENTRY_BYTES,
    })
  }

  placeOf(c: Context<Env>): Place | null {
    const kept = KEPT_ROUTES[routeOf(c) ?? '']
    if (kept === undefined || !this.#keeps) return null
    const who = c.get('who')
    const { records, ticks } = c.get('revision')
    const { pathname, search } = new URL(c.req.url)
    return {
      key: [who.firmId, kept.of === 'firm' ? '' : personKey(who), languageAsked(), pathname + search].join(' '),
      state: `${records}/${kept.ticks ? ticks : ''} ${Math.floor(this.#now().getTime() / MINUTE_MS)}`,
    }
  }

  /**
   * What is kept, or a promise of what somebody is working out just now, or, for the one who comes first, `put` to be told when it is made.
   * Looked at and marked in one go: those who come at the same time are not all the first.
   */
  take(place: Place): Taken {
    const { key, state } = place
    const made = this.#made.get(key)
    if (made?.state === state) return { whole: made.whole }
    const coming = this.#making.get(`${state} ${key}`)
    return coming ? { coming } : { put: this.making(place) }
  }

  /** Says that it is being worked out; what is returned is told when it is, or that it came to nothing. */
  making({ key, state }: Place): Put {
    const at = `${state} ${key}`
    let resolve: (whole: WholeAnswer | null) => void = () => undefined
    const promise = new Promise<WholeAnswer | null>((done) => {
      resolve = done
    })
    this.#making.set(at, promise)
    return (whole) => {
      if (this.#making.get(at) === promise) this.#making.delete(at)
      if (whole !== null) this.#made.set(key, { state, whole })
      resolve(whole)
    }
  }
}
