import { create } from 'zustand'

interface ProgramState {
  /** A newer program waits on this device. */
  waiting: ServiceWorker | null
}
export const useProgram = create<ProgramState>(() => ({ waiting: null }))

/** The first screen comes first: keeping the program on the device can wait a moment. */
const AFTER_MS = 4000
const LOOK_AGAIN_MS = 3_600_000

function watch(registration: ServiceWorkerRegistration): void {
  const tell = (): void => {
    // The first one is no update: nothing ran before it.
    if (registration.waiting && navigator.serviceWorker.controller) useProgram.setState({ waiting: registration.waiting })
  }
  tell()
  registration.addEventListener('updatefound', () => registration.installing?.addEventListener('statechange', tell))
  setInterval(() => void registration.update().catch(() => undefined), LOOK_AGAIN_MS)
}

/** Keeps the program's files on the device, so that it opens without a network. */
export function keepProgram(): void {
  if (!('serviceWorker' in navigator)) return
  setTimeout(() => {
    // Where it cannot be kept (a private window) the program runs as long as the network does.
    navigator.serviceWorker.register('/sw.js').then(watch, () => undefined)
  }, AFTER_MS)
}

/** Takes the newer program now: the page opens anew with it. */
export function takeUpdate(): void {
  const { waiting } = useProgram.getState()
  if (!waiting) return
  navigator.serviceWorker.addEventListener('controllerchange', () => window.location.reload(), { once: true })
  waiting.postMessage({ type: 'SKIP_WAITING' })
}
