// Says what is being done and how long it took; plain lines, so that logs stay readable.
import { spawn } from 'node:child_process'
import { PlainError } from './postgres.mjs'

const seconds = (from) => `${((performance.now() - from) / 1000).toFixed(1)} s`

/** How often something long says how far it is. */
const SAY_MS = 10_000

/** Does a piece of work under a name; `far` says, in words, how far it is while it takes long. */
export async function step(name, work, far = null) {
  const from = performance.now()
  process.stdout.write(`  ${name} …\n`)
  const saying = setInterval(() => process.stdout.write(`  ${name} … ${far?.() ?? seconds(from)}\n`), SAY_MS)
  const result = await Promise.resolve(work()).finally(() => clearInterval(saying))
  process.stdout.write(`  ${name}: ${result?.skipped ? `nothing to do` : 'done'}, ${seconds(from)}\n`)
  return result
}

/** Runs a command to its end; its output is shown only when it fails. */
export function quietly(command, args, options = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(command, args, { stdio: ['ignore', 'pipe', 'pipe'], ...options })
    let output = ''
    const keep = (chunk) => {
      output = (output + chunk).slice(-20_000)
    }
    child.stdout.on('data', keep)
    child.stderr.on('data', keep)
    child.on('error', reject)
    child.on('exit', (code) =>
      code === 0 ? resolve(output) : reject(new PlainError(`${command} ${args.join(' ')} ended with ${code}:\n${output}`)),
    )
  })
}

/** Ends with a message for people; a stack only for what nobody foresaw. */
export function fail(error) {
  process.stderr.write(`\n${error instanceof PlainError ? error.message : (error?.stack ?? error)}\n`)
  process.exit(1)
}
