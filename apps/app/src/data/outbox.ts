import { PROTOCOL_VERSION } from '@evenround/contract/protocol'
import type { FactResult } from '@evenround/contract/visit'
import { type Fact, upgradeFact } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { createStore, del, delMany, setMany, entries as storedEntries } from 'idb-keyval'
import { v7 as uuidv7 } from 'uuid'
import { create } from 'zustand'
import { ApiProblem, api, ask, onServerBack } from './api'
import { applyEffects } from './effects'
import { editsWait, onEditsSent, openEdits } from './kept-edits'
import { latestOf, type Moment, momentNow } from './own-clock'
import { queryClient } from './queries'
import { keep, keepText, letGo, mayGo, useRoom } from './room'
import { type Sent, sendAll, sendingLine } from './sending'

/** One fact on this device and how far it got. Refused ones stay, to be looked at; none is dropped unsent. */
export interface OutboxEntry {
  fact: Fact
  owner: string
  state: 'waiting' | 'sent' | 'refused'
  reason?: FactResult['reason']
  /** When it was recorded, by a clock nobody sets; left out of what corrects an instant of before. */
  moment?: Moment
}

interface OutboxState {
  loaded: boolean
  owner: string | null
  entries: OutboxEntry[]
  /** Why sending stopped the last time; null when all went well. */
  trouble: string | null
  /** How far this device's clock is off, once it is over two minutes. */
  skewMs: number | null
}

const KEEP_SENT_MS = 7 * 86_400_000
const SKEW_SHOWN_MS = 120_000
const SEQ_KEY = 'even-round.seq'
const DEVICE_KEY = 'even-round.device'

const disk = createStore('even-round', 'outbox')

export const useOutbox = create<OutboxState>(() => ({ loaded: false, owner: null, entries: [], trouble: null, skewMs: null }))

/** Onto the device, or nowhere where it has no room. */
const write = (entries: readonly OutboxEntry[]): Promise<void> =>
  keep(
    entries.map(({ fact }) => fact.id),
    () =>
      setMany(
        entries.map((entry) => [entry.fact.id, entry]),
        disk,
      ),
  )

// The server has these.
mayGo(() =>
  delMany(
    useOutbox.getState().entries.flatMap(({ fact, state }) => (state === 'sent' ? [fact.id] : [])),
    disk,
  ),
)

export function deviceId(): string {
  const known = localStorage.getItem(DEVICE_KEY)
  if (known) return known
  const made = uuidv7()
  keepText(DEVICE_KEY, made)
  return made
}

/** The last of this page; on a full device it is ahead of what is kept. */
let lastSeq = 0
/** The device's own order of facts; it rises over reloads and tabs. */
function nextSeq(): number {
  lastSeq = Math.max(lastSeq, Number(localStorage.getItem(SEQ_KEY) ?? '0')) + 1
  keepText(SEQ_KEY, String(lastSeq))
  return lastSeq
}

export const ownerKey = (firmId: string, personId: string): string => `${firmId}/${personId}`

/** What is on the device, in today's fields: a fact may have waited through an update of the program. */
const onDisk = async (): Promise<OutboxEntry[]> =>
  (await storedEntries<string, OutboxEntry>(disk)).map(([, entry]) => ({ ...entry, fact: upgradeFact(entry.fact, 1) as Fact }))

/** Facts on this device, whoever recorded them, that wait to be sent; refused ones do not go out by themselves. */
export const unsentOnDevice = async (): Promise<number> =>
  (await storedEntries<string, OutboxEntry>(disk)).filter(([, { state }]) => state === 'waiting').length

/** Opens the outbox of this person of this firm; another person's facts on the device stay unseen and unsent. */
export async function openOutbox(owner: string): Promise<void> {
  if (useOutbox.getState().owner === owner) return
  useOutbox.setState({ owner, loaded: false, entries: [] })
  await openEdits(owner)
  // Asked once; a browser that will not promise keeps it as long as it can.
  void navigator.storage?.persist?.()
  const all = await onDisk()
  const now = Date.now()
  const [old, kept] = [all.filter((entry) => gone(entry, now)), all.filter((entry) => !gone(entry, now) && entry.owner === owner)]
  await Promise.all(old.map(({ fact }) => del(fact.id, disk)))
  useOutbox.setState({ entries: kept.sort((a, b) => a.fact.seq - b.fact.seq), loaded: true })
  void flush()
}

const gone = (entry: OutboxEntry, now: number): boolean => entry.state === 'sent' && now - Date.parse(entry.fact.at) > KEEP_SENT_MS

/** Held by the one tab that writes, for as long as it is open or until another one is worked in. */
const PEN = 'even-round.pen'
let pen = false

/** Makes this tab the one that writes; what another one wrote meanwhile is read first. */
async function takePen(): Promise<void> {
  if (pen) return
  await new Promise<void>((held) => {
    navigator.locks
      .request(PEN, { steal: true }, () => {
        pen = true
        held()
        return new Promise<never>(() => undefined)
      })
      .catch(() => {
        // Another tab is worked in now.
        pen = false
      })
  })
  await readAgain()
}

/** Takes over what another tab of this device wrote. */
async function readAgain(): Promise<void> {
  const { owner, loaded } = useOutbox.getState()
  if (owner === null || !loaded) return
  const stored = (await onDisk()).filter((entry) => entry.owner === owner)
  useOutbox.setState(({ entries }) => {
    const byId = new Map([...entries, ...stored].map((entry) => [entry.fact.id, entry]))
    return { entries: [...byId.values()].sort((a, b) => a.fact.seq - b.fact.seq) }
  })
}

type Common = 'id' | 'at' | 'seq' | 'supersedes' | 'voided'
export type NewFact = {
  [K in Fact['kind']]: Omit<Extract<Fact, { kind: K }>, Common> & {
    supersedes?: string | null
    voided?: boolean
    /** A correction keeps the instant of what it corrects; what is done now is of now. */
    at?: string
  }
}[Fact['kind']]

/** Writes facts on the device first, shows them at once, then sends what waits. */
export async function record(...facts: NewFact[]): Promise<Fact[]> {
  const { owner } = useOutbox.getState()
  if (owner === null) throw new Error(say`nobody is signed in on this device`)
  await takePen()
  const made = facts.map((fact) => {
    const { supersedes = null, voided = false, at = new Date().toISOString(), ...rest } = fact
    return { ...rest, id: uuidv7(), at, seq: nextSeq(), supersedes, voided } as Fact
  })
  const moment = momentNow()
  const added = made.map((fact, index): OutboxEntry => ({ fact, owner, state: 'waiting', ...(facts[index]?.at ? {} : { moment }) }))
  // What found no room before is tried again with it.
  const { unkept } = useRoom.getState()
  const again = useOutbox.getState().entries.filter(({ fact, state }) => state === 'waiting' && unkept.has(fact.id))
  await write([...again, ...added])
  useOutbox.setState(({ entries }) => ({ entries: [...entries, ...added] }))
  void flush()
  return made
}

async function settle(results: readonly FactResult[]): Promise<void> {
  const byId = new Map(results.map((result) => [result.id, result]))
  const settled = (entry: OutboxEntry): OutboxEntry => {
    const result = byId.get(entry.fact.id)
    if (!result) return entry
    return result.status === 'refused' ? { ...entry, state: 'refused', reason: result.reason } : { ...entry, state: 'sent' }
  }
  const { entries } = useOutbox.getState()
  const changed = entries.filter(({ fact }) => byId.has(fact.id)).map(settled)
  await write(changed)
  letGo(results.map(({ id }) => id))
  useOutbox.setState(({ entries: now }) => ({ entries: now.map(settled) }))
}

const waiting = (): Fact[] => {
  const { entries, owner } = useOutbox.getState()
  return entries.flatMap((entry) => (entry.state === 'waiting' && entry.owner === owner ? [entry.fact] : []))
}

/** Errors that speak of the request as it stands; whoever has to sign in first, or bring the program up to date, sends it again. */
const speaksOfTheFacts = (error: unknown): boolean =>
  error instanceof ApiProblem && !error.retryable && (error.code === 'BAD_INPUT' || error.code === 'TOO_LARGE')

/** Facts whose instant lies after any they can have had: the clock was ahead when they were recorded, and was set back since. */
function recordedAhead(facts: readonly Fact[]): Record<string, string> {
  const moments = new Map(useOutbox.getState().entries.map(({ fact, moment }) => [fact.id, moment]))
  return Object.fromEntries(
    facts.flatMap(({ id, at }) => {
      const latest = latestOf(moments.get(id))
      return latest !== null && Date.parse(at) - Date.parse(latest) > SKEW_SHOWN_MS ? [[id, latest]] : []
    }),
  )
}

async function send(facts: readonly Fact[]): Promise<Sent> {
  const now = new Date().toISOString()
  const notAfter = recordedAhead(facts)
  try {
    const answer = await ask(
      api.facts.$post({
        json: {
          protocol: PROTOCOL_VERSION,
          deviceId: deviceId(),
          sentAt: now,
          facts: [...facts],
          ...(Object.keys(notAfter).length > 0 ? { notAfter } : {}),
        },
      }),
    )
    await settle(answer.results)
    useOutbox.setState({ skewMs: Math.abs(answer.skewMs) > SKEW_SHOWN_MS ? answer.skewMs : null })
    const taken = new Set(answer.results.flatMap(({ id, status }) => (status === 'refused' ? [] : [id])))
    const personId = (useOutbox.getState().owner ?? '').split('/')[1] ?? ''
    applyEffects(queryClient, { effects: answer.effects, accepted: facts.filter(({ id }) => taken.has(id)), personId, now })
    return 'settled'
  } catch (error) {
    if (speaksOfTheFacts(error)) return 'refused'
    const problem = error instanceof ApiProblem ? error.message : say`Sending stopped for a reason that is not known; it goes on by itself.`
    useOutbox.setState({ trouble: problem })
    return 'later'
  }
}

/** Facts a request carries. */
const BATCH = 100

const line = sendingLine({
  lock: 'even-round.outbox',
  // A new site goes before the facts about it.
  wanted: () => waiting().length > 0 && !editsWait(),
  sendWaiting: () =>
    sendAll({ most: BATCH, waiting, send, quarantine: ({ id }) => settle([{ id, status: 'refused', flags: [], reason: 'bad-form' }]) }),
  onTried: (good) => {
    if (good) useOutbox.setState({ trouble: null })
  },
})

onEditsSent(() => void flush())

/** Sends what waits, in order, in batches. Trouble leaves everything in place and tries again by itself. */
export const flush = (): Promise<void> => line.flush()

if (typeof window !== 'undefined') {
  window.addEventListener('online', () => void line.flushNow())
  onServerBack(() => void line.flushNow())
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') void readAgain()
  })
}

/** Puts a refused fact back in line, after what it depended on was mended. */
export async function retryRefused(): Promise<void> {
  const retried = useOutbox
    .getState()
    .entries.map((entry): OutboxEntry => (entry.state === 'refused' ? { fact: entry.fact, owner: entry.owner, state: 'waiting' } : entry))
  await write(retried)
  useOutbox.setState({ entries: retried })
  void flush()
}

/** For keeping unsent work before signing out: a plain JSON file. */
export const unsentAsFile = (): Blob =>
  new Blob(
    [
      JSON.stringify(
        useOutbox
          .getState()
          .entries.filter(({ state }) => state !== 'sent')
          .map(({ fact }) => fact),
        null,
        2,
      ),
    ],
    { type: 'application/json' },
  )
