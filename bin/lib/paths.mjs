import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

export const ROOT = dirname(dirname(dirname(fileURLToPath(import.meta.url))))
export const APP_DIR = join(ROOT, 'apps/app')
export const APP_DIST = join(APP_DIR, 'dist')
export const SERVER_DIR = join(ROOT, 'apps/server')
export const SERVER_DIST = join(SERVER_DIR, 'dist')
export const DATA = join(ROOT, '.data')
export const CLOCK = join(ROOT, 'bin/lib/clock.cjs')
