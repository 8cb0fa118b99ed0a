import { Counter, Gauge, Histogram, Registry } from 'prom-client'

/** From a tick to the largest answers, seconds. */
const BUCKETS = [0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1, 2.5, 5, 10, 30]

/** Counts of answers and their time, in the text form that scrapers read; nothing of any firm. `registry` may hold the process's own. */
export function metrics(registry = new Registry(), lastBackup: () => Promise<Date | null> = async () => null) {
  const requests = new Counter({
    name: 'even_round_requests_total',
    help: 'Answers, by method and status.',
    labelNames: ['method', 'status'],
    registers: [registry],
  })
  const seconds = new Histogram({
    name: 'even_round_request_seconds',
    help: 'Time from a request to its answer.',
    labelNames: ['method'],
    buckets: BUCKETS,
    registers: [registry],
  })
  // Zero where there is none: older than any limit.
  new Gauge({
    name: 'even_round_last_good_backup_seconds',
    help: 'When the last good backup of the server began, seconds since 1970.',
    registers: [registry],
    async collect() {
      this.set(((await lastBackup())?.getTime() ?? 0) / 1000)
    },
  })
  return {
    count(method: string, status: number, ms: number): void {
      requests.inc({ method, status: String(status) })
      seconds.observe({ method }, ms / 1000)
    },
    text: (): Promise<string> => registry.metrics(),
    contentType: registry.contentType,
  }
}
