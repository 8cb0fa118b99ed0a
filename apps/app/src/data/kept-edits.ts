import { say } from '@evenround/core/words'
import { createStore, del, set, entries as storedEntries } from 'idb-keyval'
import { v7 as uuidv7 } from 'uuid'
import { create } from 'zustand'
import { ApiProblem, askPlain, onServerBack } from './api'
import { queryClient } from './queries'
import { keep, letGo } from './room'
import { sendingLine } from './sending'

/** Something new that was made on this device and goes to the server as it is, before the facts about it: a site, a system, a stop; or what is changed of one. */
export interface KeptEdit {
  id: string
  owner: string
  /** Instant, ISO; sent in this order. */
  at: string
  /** `POST` to here; the ids in the body are the device's own, so that the second time it is the same thing. */
  path: '/api/sites' | '/api/stops' | '/api/systems' | `/api/sites/${string}/changes` | `/api/systems/${string}/changes`
  body: unknown
  /** For the person: "New site: Net loft cottage". */
  what: string
  /** `told`: it is saved, and something about it is to be read. */
  state: 'waiting' | 'refused' | 'told'
  /** The server's words for a refusal, or what is to be read. */
  message?: string
}

const disk = createStore('even-round-edits', 'edits')
interface Edits {
  owner: string | null
  edits: KeptEdit[]
}
export const useKeptEdits = create<Edits>(() => ({ owner: null, edits: [] }))

const waiting = (): KeptEdit[] => useKeptEdits.getState().edits.filter(({ state }) => state === 'waiting')
/** Facts wait for these: what they are about has to be there first. */
export const editsWait = (): boolean => waiting().length > 0

const put = (edit: KeptEdit): void =>
  useKeptEdits.setState(({ edits }) => ({
    edits: [...edits.filter(({ id }) => id !== edit.id), edit].sort((a, b) =>
      a.at === b.at ? (a.id < b.id ? -1 : 1) : a.at < b.at ? -1 : 1,
    ),
  }))

const shownBy = (path: KeptEdit['path']): readonly string[] =>
  path === '/api/stops' ? ['today', 'week', 'stop', 'site'] : ['sites', 'site', 'due', 'today', 'stop', 'train']

/** What the server says to an edit; of one that was merged, which fields somebody else had changed meanwhile. */
interface Answer {
  theirs?: readonly string[]
}
const FIELD_WORDS: Readonly<Record<string, string>> = {
  chlorineMgL: say`chlorine`,
  lat: say`position`,
  lon: say`position`,
  island: say`area or island`,
  village: say`town`,
  phone: say`telephone`,
  contacts: say`further contacts`,
}
const theirsText = (fields: readonly string[]): string =>
  say`Somebody changed this meanwhile, and theirs stands: ${[...new Set(fields.map((field) => FIELD_WORDS[field] ?? field))].join(', ')}. The rest of yours is saved.`
let whenSent: () => void = () => undefined
/** Called once nothing waits any more. */
export const onEditsSent = (then: () => void): void => {
  whenSent = then
}

/** Sends the first that waits; false where it has to be tried again later. */
async function sendNext(edit: KeptEdit): Promise<boolean> {
  try {
    const { theirs = [] } = await askPlain<Answer>(edit.path, edit.body)
    if (theirs.length > 0) {
      const told: KeptEdit = { ...edit, state: 'told', message: theirsText(theirs) }
      await keep([edit.id], () => set(edit.id, told, disk))
      put(told)
    } else await forgetEdit(edit.id)
    for (const key of shownBy(edit.path)) void queryClient.invalidateQueries({ queryKey: [key] })
    return true
  } catch (error) {
    const forGood = error instanceof ApiProblem && !error.retryable && error.code !== 'NOT_SIGNED_IN' && error.code !== 'CLIENT_TOO_OLD'
    if (!forGood) return false
    const refused: KeptEdit = { ...edit, state: 'refused', message: error.message }
    await keep([edit.id], () => set(edit.id, refused, disk))
    put(refused)
    return true
  }
}

const line = sendingLine({
  lock: 'even-round.edits',
  wanted: editsWait,
  sendWaiting: async () => {
    for (let [next] = waiting(); next; [next] = waiting()) if (!(await sendNext(next))) return false
    return true
  },
  onTried: (good) => {
    if (good) whenSent()
  },
})
export const sendEdits = (): Promise<void> => line.flush()

/** Opens what this person made on the device and has not been sent; another person's stays unseen and unsent. */
export async function openEdits(owner: string): Promise<void> {
  if (useKeptEdits.getState().owner === owner) return
  useKeptEdits.setState({ owner, edits: [] })
  for (const [, edit] of await storedEntries<string, KeptEdit>(disk)) if (edit.owner === owner) put(edit)
  void line.flush()
}

/** Keeps something new on the device, then sends it. */
export async function keepEdit(edit: Pick<KeptEdit, 'path' | 'body' | 'what'>): Promise<void> {
  const { owner } = useKeptEdits.getState()
  if (owner === null) throw new Error(say`nobody is signed in on this device`)
  const kept: KeptEdit = { ...edit, id: uuidv7(), owner, at: new Date().toISOString(), state: 'waiting' }
  await keep([kept.id], () => set(kept.id, kept, disk))
  put(kept)
  void line.flush()
}

/** It was sent, or what was to be read about it has been read. */
export async function forgetEdit(id: string): Promise<void> {
  await del(id, disk)
  letGo([id])
  useKeptEdits.setState(({ edits }) => ({ edits: edits.filter((edit) => edit.id !== id) }))
}

/** Puts what was refused back in line, after what stood in its way was mended. */
export async function retryEdits(): Promise<void> {
  for (const { message: _, ...edit } of useKeptEdits.getState().edits) {
    if (edit.state !== 'refused') continue
    const again: KeptEdit = { ...edit, state: 'waiting' }
    await keep([again.id], () => set(again.id, again, disk))
    put(again)
  }
  void line.flush()
}

if (typeof window !== 'undefined') {
  window.addEventListener('online', () => void line.flushNow())
  onServerBack(() => void line.flushNow())
}
