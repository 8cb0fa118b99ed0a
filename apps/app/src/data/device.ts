import { useEffect } from 'react'

/** Keeps the screen awake while something is open; a device that cannot goes on as usual. */
export function useAwake(wanted: boolean): void {
  useEffect(() => {
    if (!wanted || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | null = null
    let over = false
    const hold = (): void => {
      if (document.visibilityState !== 'visible') return
      // Refused on a low battery: the screen then sleeps as it is set to.
      navigator.wakeLock.request('screen').then(
        (got) => {
          if (over) void got.release()
          else lock = got
        },
        () => undefined,
      )
    }
    hold()
    document.addEventListener('visibilitychange', hold)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', hold)
      void lock?.release()
    }
  }, [wanted])
}

const TONES_HZ = [880, 660, 880]
const TONE_S = 0.25

/** Three short tones: a clock is over. Silent where the browser allows no sound yet. */
export function soundOver(): void {
  const audio = new AudioContext()
  TONES_HZ.forEach((hertz, index) => {
    const tone = audio.createOscillator()
    const level = audio.createGain()
    tone.frequency.value = hertz
    level.gain.value = 0.2
    tone.connect(level).connect(audio.destination)
    tone.start(audio.currentTime + index * TONE_S * 1.4)
    tone.stop(audio.currentTime + index * TONE_S * 1.4 + TONE_S)
  })
  setTimeout(() => void audio.close(), 2000)
}

interface BarcodeReader {
  detect(image: ImageBitmapSource): Promise<{ rawValue: string }[]>
}
declare global {
  /** Not every browser has it. */
  var BarcodeDetector: (new () => BarcodeReader) | undefined
}
const reader = (): (new () => BarcodeReader) | undefined => globalThis.BarcodeDetector

/** Whether this browser can read a printed code from a picture. */
export const canScan = (): boolean => reader() !== undefined

/** What is printed as a code on a picture; null where none can be read. */
export async function scanCode(file: Blob): Promise<string | null> {
  const Reader = reader()
  if (!Reader) return null
  const [code] = await new Reader().detect(await createImageBitmap(file))
  return code?.rawValue.trim() || null
}
