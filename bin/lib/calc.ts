import { readFileSync } from 'node:fs'
import { CALC, calcJsonSchema, runCalc } from '@evenround/contract/calc'

const [name, flag] = process.argv.slice(2)

function bad(lines: string[]): never {
  process.stderr.write(`${lines.join('\n')}\n`)
  process.exit(2)
}

function readInput(): unknown {
  const text = readFileSync(0, 'utf8')
  try {
    return JSON.parse(text)
  } catch (error) {
    return bad([`$: expected JSON on standard input: ${error instanceof Error ? error.message : String(error)}`])
  }
}

if (name === undefined) {
  process.stdout.write(`${Object.keys(CALC).join('\n')}\n`)
} else if (!Object.hasOwn(CALC, name)) {
  bad([`NAME: expected one of ${Object.keys(CALC).join(', ')}, got ${name}`])
} else if (flag === '--schema') {
  process.stdout.write(`${JSON.stringify(calcJsonSchema(name), null, 2)}\n`)
} else if (flag !== undefined) {
  bad([`expected no more than NAME and --schema, got ${flag}`])
} else {
  const answer = runCalc(name, readInput())
  if (!answer.ok) bad(answer.problems.map(({ path, message }) => `${path}: ${message}`))
  process.stdout.write(`${JSON.stringify(answer.output)}\n`)
}
