// A backup a day beside a server that runs, by bin/backup itself.
import { spawn } from 'node:child_process'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'

const MAIN = join(dirname(fileURLToPath(import.meta.url)), 'main.mjs')
const LOOK_MS = 15 * 60_000
/** A little less than a day, so that it does not wander round the clock. */
const OLD_HOURS = 23

/** Looks at once and every quarter of an hour whether the last good one is a day old. What goes wrong is told once for each reason. */
export function keepBackedUp({ onLine, tell, everyMs = LOOK_MS, command = [process.execPath, MAIN, '--if-older', String(OLD_HOURS)] }) {
  let [running, stopped, told] = [null, false, '']
  const look = () => {
    if (running !== null || stopped) return
    const [program, ...args] = command
    const child = spawn(program, args, { detached: true, stdio: ['ignore', 'pipe', 'pipe'] })
    let said = ''
    child.stdout.on('data', (chunk) => onLine(String(chunk)))
    child.stderr.on('data', (chunk) => {
      said = (said + chunk).slice(-4000)
      onLine(String(chunk))
    })
    running = new Promise((resolve) => {
      child.on('error', (error) => resolve(error.message))
      child.on('exit', (code) => resolve(code === 0 ? null : said.trim() || `ended with ${code}`))
    }).then((problem) => {
      running = null
      if (stopped) return
      if (problem !== null && problem !== told) tell(`The backup failed: ${problem}`)
      else if (problem === null && told !== '') tell('The backup is good again.')
      told = problem ?? ''
    })
    running.child = child
  }
  look()
  const timer = setInterval(look, everyMs)
  return {
    async stop() {
      stopped = true
      clearInterval(timer)
      const last = running
      if (last === null) return
      // Its own children go with it.
      process.kill(-last.child.pid, 'SIGTERM')
      await last
    },
  }
}
