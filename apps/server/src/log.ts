export type Log = (level: 'info' | 'warn' | 'error', event: string, more?: Record<string, unknown>) => void

/** One JSON object a line, to be searched by machines. Never holds what people typed. */
export const jsonLog =
  (write: (line: string) => void, now: () => Date): Log =>
  (level, event, more = {}) =>
    write(`${JSON.stringify({ at: now().toISOString(), level, event, ...more })}\n`)
