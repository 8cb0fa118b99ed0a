export interface RunningServer {
  port: number
  pid: number
  ended: Promise<number | null>
  moveClock: (aheadMs: number) => Promise<void>
  stop: () => Promise<void>
}
export function prepare(options: {
  appUrl: string
  ownerUrl?: string
  loadDemo: '0' | '1' | 'if-empty'
}): Promise<{ demo: string; asAppRole: boolean }>
export function serve(options: {
  appUrl: string
  asAppRole?: boolean
  port: number
  secret: string
  showDemo: boolean
  clockMoves?: boolean
  publicUrl?: string
  more?: Record<string, string>
  onLine?: (line: string) => void
}): Promise<RunningServer>
