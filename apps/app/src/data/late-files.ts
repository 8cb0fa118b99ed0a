import { say } from '@evenround/core/words'

/** What a bundle of the program is fetched by; the loader of Expo puts it there under this name. */
declare global {
  var __loadBundleAsync: ((path: string) => Promise<void>) | undefined
}

/** The file that all later screens share, named by the build in the page; null where a page has none. */
const sharedFile = (): string | null => document.querySelector<HTMLLinkElement>('link[data-shared]')?.href ?? null

function fetchScript(src: string): Promise<void> {
  return new Promise((resolve, reject) => {
    const script = document.createElement('script')
    script.src = src
    script.onload = () => resolve()
    script.onerror = () => reject(new Error(say`${src} could not be fetched`))
    document.head.append(script)
  })
}

/**
 * Screens that come later share a file. It is fetched with the first of them and not with the first screen, which needs nothing of it:
 * `bin/lib/build.mjs` takes it out of the page's own scripts.
 */
export function fetchSharedLate(): void {
  const [file, load] = [sharedFile(), globalThis.__loadBundleAsync]
  if (file === null || load === undefined) return
  let shared: Promise<void> | null = null
  globalThis.__loadBundleAsync = async (path) => {
    // A try without a network is no reason not to try again.
    shared ??= fetchScript(file).catch((error: unknown) => {
      shared = null
      throw error
    })
    await shared
    return load(path)
  }
}
