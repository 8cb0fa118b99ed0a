// The scriptable core as one small file, so that it starts in well under a second.
import { mkdirSync, renameSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { ensurePackages } from './install.mjs'
import { ROOT } from './paths.mjs'

await ensurePackages()
const esbuild = createRequire(join(ROOT, 'package.json'))('esbuild')
mkdirSync(join(ROOT, '.build'), { recursive: true })
const part = join(ROOT, `.build/calc.${process.pid}.mjs`)
await esbuild.build({
  entryPoints: [join(ROOT, 'bin/lib/calc.ts')],
  outfile: part,
  bundle: true,
  platform: 'node',
  target: 'node20',
  format: 'esm',
  minify: true,
  alias: { '@evenround/core': join(ROOT, 'packages/core/src'), '@evenround/contract': join(ROOT, 'packages/contract/src') },
  logLevel: 'silent',
})
// Two calls at once may both build: whoever is last puts the same file in place.
renameSync(part, join(ROOT, '.build/calc.mjs'))
