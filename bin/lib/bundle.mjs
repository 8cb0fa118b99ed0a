// Bundled first: measured code is the code that runs, not the code a loader wraps.
import { mkdirSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import { ensurePackages } from './install.mjs'
import { ROOT } from './paths.mjs'

/** Imports a TypeScript file of `bin/lib` as one bundle; packages stay outside. */
export async function bundled(name) {
  await ensurePackages()
  const esbuild = createRequire(join(ROOT, 'package.json'))('esbuild')
  mkdirSync(join(ROOT, '.build'), { recursive: true })
  const outfile = join(ROOT, `.build/${name}.mjs`)
  await esbuild.build({
    entryPoints: [join(ROOT, `bin/lib/${name}.ts`)],
    outfile,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    packages: 'external',
    alias: { '@evenround/core': join(ROOT, 'packages/core/src'), '@evenround/contract': join(ROOT, 'packages/contract/src') },
    logLevel: 'silent',
  })
  return import(pathToFileURL(outfile).href)
}
