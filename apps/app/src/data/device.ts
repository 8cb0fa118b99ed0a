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

/** The reader of printed codes beside the program's own files: `bin/lib/build.mjs` puts it there. */
const READER_FILE = '/code-reader.wasm'

/** The browser's own reader of codes, or the one that comes with the program; it is brought when somebody scans for the first time. */
async function codeReader(): Promise<BarcodeReader> {
  if (globalThis.BarcodeDetector) return new globalThis.BarcodeDetector()
  const { BarcodeDetector, prepareZXingModule } = await import('barcode-detector/ponyfill')
  await prepareZXingModule({ overrides: { locateFile: () => READER_FILE }, fireImmediately: true })
  return new BarcodeDetector()
}

/** What is printed as a code on a picture; null where none can be read. Throws where there is no reader to be had. */
export async function scanCode(file: Blob): Promise<string | null> {
  const reader = await codeReader()
  const [code] = await reader.detect(await createImageBitmap(file))
  return code?.rawValue.trim() || null
}
