import type { Where } from './backup/place.mjs'
export interface OwnPostgres {
  port: number
  pid: number
  user: { uid: number; gid: number } | null
  home: string
  adminUrl: string
  psql: (sql: string, database?: string) => string
  createDatabase: (name: string) => { appUrl: string; ownerUrl: string }
  dropDatabase: (name: string) => void
  stop: () => Promise<void>
}
export function freePort(): Promise<number>
export function startPostgres(options: {
  dir: string
  elsewhere: string
  durable: boolean
  port?: number
  more?: string[]
  moreFor?: (where: Where) => string[]
}): Promise<OwnPostgres>
