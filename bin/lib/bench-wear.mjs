// Bundled first: measured code is the code that runs, not the code a loader wraps.
import { mkdirSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { ensurePackages } from './install.mjs'
import { ROOT } from './paths.mjs'

export async function run() {
  await ensurePackages()
  const esbuild = createRequire(join(ROOT, 'package.json'))('esbuild')
  mkdirSync(join(ROOT, '.build'), { recursive: true })
  const outfile = join(ROOT, '.build/bench-wear.mjs')
  await esbuild.build({
    entryPoints: [join(ROOT, 'bin/lib/bench-wear.ts')],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    logLevel: 'silent',
  })
  const { run: measure } = await import(pathToFileURL(outfile).href)
  return measure()
}
