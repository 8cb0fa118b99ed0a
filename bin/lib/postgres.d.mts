export interface OwnPostgres {
  port: number
  home: string
  adminUrl: string
  createDatabase: (name: string) => { appUrl: string; ownerUrl: string }
  dropDatabase: (name: string) => void
  stop: () => Promise<void>
}
export function startPostgres(options: { dir: string; elsewhere: string; durable: boolean; port?: number }): Promise<OwnPostgres>
