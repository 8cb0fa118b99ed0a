import { type DestinationStream, pino } from 'pino'

export type Log = (level: 'info' | 'warn' | 'error', event: string, more?: Record<string, unknown>) => void

/** One JSON object a line, to be searched by machines. Never holds what people typed. */
export function jsonLog(to: DestinationStream, now: () => Date): Log {
  const logger = pino(
    {
      base: null,
      messageKey: 'event',
      timestamp: () => `,"at":"${now().toISOString()}"`,
      formatters: { level: (level) => ({ level }) },
    },
    to,
  )
  return (level, event, more = {}) => logger[level](more, event)
}
