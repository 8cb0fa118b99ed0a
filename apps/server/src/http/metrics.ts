/** Counts of answers and their time, in the plain text form that scrapers read. */
export function metrics() {
  const answers = new Map<string, { count: number; ms: number }>()
  return {
    count(method: string, status: number, ms: number): void {
      const key = `method="${method}",status="${status}"`
      const row = answers.get(key) ?? { count: 0, ms: 0 }
      answers.set(key, { count: row.count + 1, ms: row.ms + ms })
    },
    text(): string {
      const lines = ['# TYPE even_round_requests_total counter', '# TYPE even_round_request_seconds_total counter']
      for (const [key, { count, ms }] of answers) {
        lines.push(`even_round_requests_total{${key}} ${count}`, `even_round_request_seconds_total{${key}} ${(ms / 1000).toFixed(3)}`)
      }
      lines.push(`process_resident_memory_bytes ${process.memoryUsage().rss}`)
      return `${lines.join('\n')}\n`
    },
  }
}
