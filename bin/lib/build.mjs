// Builds the app (static files) and the server (one bundle each); skips what did not change.
import { createHash } from 'node:crypto'
import { copyFileSync, existsSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { availableParallelism } from 'node:os'
import { join } from 'node:path'
import { promisify } from 'node:util'
import { brotliCompress, constants, gzip } from 'node:zlib'
import { APP_DIR, APP_DIST, ROOT, SERVER_DIR, SERVER_DIST } from './paths.mjs'
import { quietly } from './steps.mjs'

const LEFT_OUT = new Set(['node_modules', 'dist', '.expo', '.build'])

function filesBelow(dir) {
  return readdirSync(dir, { withFileTypes: true }).flatMap((entry) => {
    if (LEFT_OUT.has(entry.name)) return []
    const path = join(dir, entry.name)
    return entry.isDirectory() ? filesBelow(path) : [path]
  })
}

function hashOf(dirs, files = []) {
  const hash = createHash('sha256')
  for (const path of [...dirs.flatMap(filesBelow), ...files].filter((name) => !/\.(test|spec)\.tsx?$/.test(name)).sort())
    hash.update(path.slice(ROOT.length)).update(readFileSync(path))
  return hash.digest('hex')
}

const lock = join(ROOT, 'package-lock.json')
const packages = ['packages/core', 'packages/contract'].map((dir) => join(ROOT, dir))

const COMPRESSED = /\.(js|css|html|json|svg|ttf|wasm)$/
const [brotli, zip] = [promisify(brotliCompress), promisify(gzip)]

/** Written once here, so that the server never compresses while somebody waits. */
async function precompress(dir) {
  for (const path of filesBelow(dir).filter((name) => COMPRESSED.test(name))) {
    const bytes = readFileSync(path)
    writeFileSync(`${path}.br`, await brotli(bytes, { params: { [constants.BROTLI_PARAM_QUALITY]: 9 } }))
    writeFileSync(`${path}.gz`, await zip(bytes))
  }
}

/** Files named by their content, as the exporter names them. */
const NAMED_BY_CONTENT = /[.-][0-9a-f]{32}\./

/** The worker that keeps every file of the program on the device, so that it opens without a network. */
async function writeServiceWorker() {
  const { generateSW } = createRequire(join(ROOT, 'package.json'))('workbox-build')
  await generateSW({
    globDirectory: APP_DIST,
    globPatterns: ['**/*.{js,css,html,svg,ttf,wasm,webmanifest}'],
    swDest: join(APP_DIST, 'sw.js'),
    mode: 'production',
    inlineWorkboxRuntime: true,
    sourcemap: false,
    clientsClaim: true,
    // A new version waits until no visit is open and somebody says so.
    skipWaiting: false,
    cleanupOutdatedCaches: true,
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [/^\/api\//],
    dontCacheBustURLsMatching: NAMED_BY_CONTENT,
    maximumFileSizeToCacheInBytes: 20_000_000,
  })
}

/** Workspaces are bundled in, packages stay outside and are found by Node.js as usual. */
const ALIAS = { '@evenround/core': join(ROOT, 'packages/core/src'), '@evenround/contract': join(ROOT, 'packages/contract/src') }

/** Workers of the app: one file each, beside it, without anything of the screens. */
async function bundleWorkers() {
  const esbuild = createRequire(join(ROOT, 'package.json'))('esbuild')
  await esbuild.build({
    entryPoints: { 'plan-worker': join(APP_DIR, 'src/workers/plan.worker.ts') },
    outdir: APP_DIST,
    bundle: true,
    minify: true,
    platform: 'browser',
    target: 'es2022',
    format: 'iife',
    alias: ALIAS,
    tsconfig: join(APP_DIR, 'tsconfig.json'),
    logLevel: 'silent',
  })
}

/** What later screens share is no script of the page: `data/late-files.ts` fetches it with the first of them. */
function sharedLater() {
  const page = join(APP_DIST, 'index.html')
  const html = readFileSync(page, 'utf8')
  const later = html.replace(
    /<script src="([^"]*\/__common-[^"]*)" defer><\/script>/,
    '<link rel="prefetch" as="script" href="$1" data-shared>',
  )
  if (later === html) throw new Error('the page of the app has no script that later screens share')
  writeFileSync(page, later)
}

export async function buildApp() {
  const stampFile = join(APP_DIST, '.stamp')
  const stamp = hashOf([APP_DIR, ...packages], [lock])
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return { skipped: true }
  rmSync(APP_DIST, { recursive: true, force: true })
  const expo = join(ROOT, 'node_modules/.bin/expo')
  await quietly(expo, ['export', '-p', 'web', '--max-workers', String(availableParallelism())], {
    cwd: APP_DIR,
    env: { ...process.env, CI: '1', EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1', NODE_ENV: 'production' },
  })
  sharedLater()
  await bundleWorkers()
  copyFileSync(join(ROOT, 'node_modules/zxing-wasm/dist/reader/zxing_reader.wasm'), join(APP_DIST, 'code-reader.wasm'))
  await writeServiceWorker()
  await precompress(APP_DIST)
  writeFileSync(stampFile, stamp)
  return {}
}

/** What packages of the older kind expect to find around them. */
const REQUIRE_IN_MODULES = `import { createRequire as madeHere } from 'node:module'
import { fileURLToPath as pathOf } from 'node:url'
import { dirname as folderOf } from 'node:path'
const require = madeHere(import.meta.url), __filename = pathOf(import.meta.url), __dirname = folderOf(__filename)`

export async function buildServer() {
  const stampFile = join(SERVER_DIST, '.stamp')
  const stamp = hashOf([join(SERVER_DIR, 'src'), ...packages], [lock])
  if (existsSync(stampFile) && readFileSync(stampFile, 'utf8') === stamp) return { skipped: true }
  const esbuild = createRequire(join(ROOT, 'package.json'))('esbuild')
  const src = join(SERVER_DIR, 'src')
  await esbuild.build({
    entryPoints: {
      main: join(src, 'main.ts'),
      prepare: join(src, 'prepare.ts'),
      firms: join(src, 'firms.ts'),
      backups: join(src, 'backups.ts'),
      'calc-worker': join(src, 'features/calc/worker.ts'),
      'wear-worker': join(src, 'background/worker.ts'),
      'round-worker': join(src, 'background/round-worker.ts'),
      'map-worker': join(src, 'background/map-worker.ts'),
      'aside-thread': join(src, 'background/aside-thread.ts'),
      'demo-devices': join(src, 'demo/send.ts'),
    },
    outdir: SERVER_DIST,
    bundle: true,
    platform: 'node',
    target: 'node20',
    format: 'esm',
    outExtension: { '.js': '.mjs' },
    // Brought in whole, packages are read in half the time; what has compiled parts or workers of its own stays outside.
    external: ['@node-rs/argon2', 'sharp', 'piscina', 'pg-native'],
    banner: { js: REQUIRE_IN_MODULES },
    alias: ALIAS,
    sourcemap: true,
    tsconfig: join(SERVER_DIR, 'tsconfig.json'),
    logLevel: 'silent',
  })
  writeFileSync(stampFile, stamp)
  return {}
}
