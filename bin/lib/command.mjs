import { parseArgs } from 'node:util'
import { fail } from './steps.mjs'

/** A command by its words: `--help` prints its help, words it does not know are answered with it, and what fails is told in words. */
export async function command({ help, options, allowPositionals = false }, work) {
  try {
    const { values, positionals } = parseArgs({ allowPositionals, options: { ...options, help: { type: 'boolean' } } })
    if (values.help) process.stdout.write(`${help}\n`)
    else await work(values, positionals)
  } catch (error) {
    if (error?.code?.startsWith?.('ERR_PARSE_ARGS')) {
      process.stderr.write(`${error.message}\n\n${help}\n`)
      process.exit(2)
    }
    fail(error)
  }
}
