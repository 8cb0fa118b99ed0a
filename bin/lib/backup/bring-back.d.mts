import type { OwnPostgres } from '../postgres.mjs'
export function instantOf(text: string): Date
export function bringBack(options: {
  where: { dir: string; elsewhere: string }
  repo?: string | null
  key?: string | null
  at?: Date | null
  secretFile: string
  step: <T>(name: string, work: () => T) => T
  now?: () => number
}): Promise<{ server: OwnPostgres; aside: string | null }>
