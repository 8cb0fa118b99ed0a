import { say } from '@evenround/core/words'
import type { z } from 'zod'
import type { FieldProblem } from './errors'

type Issue = z.core.$ZodIssue

/** `strips[0].minute`; `$` for the whole input. */
function pathText(path: readonly PropertyKey[], root: string): string {
  let text = root
  for (const part of path) {
    if (typeof part === 'number') text += `[${part}]`
    else text += text === '' ? String(part) : `.${String(part)}`
  }
  return text === '' ? '$' : text
}

const list = (values: readonly unknown[]): string => values.map((value) => JSON.stringify(value)).join(' | ')

function valueAt(input: unknown, path: readonly PropertyKey[]): unknown {
  let value: unknown = input
  for (const part of path) {
    if (value === null || typeof value !== 'object') return undefined
    value = (value as Record<PropertyKey, unknown>)[part]
  }
  return value
}

function shown(value: unknown): string {
  if (value === undefined) return 'nothing'
  const text = JSON.stringify(value) ?? String(value)
  return text.length > 60 ? `${text.slice(0, 57)}...` : text
}

function expected(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return say`expected ${issue.expected === 'int' ? say`a whole number` : say`a value of type ${issue.expected}`}`
    case 'invalid_value':
      return say`expected ${list(issue.values)}`
    case 'too_small':
      return issue.origin === 'number' || issue.origin === 'int'
        ? say`expected a number ${issue.inclusive ? say`at least` : say`over`} ${Number(issue.minimum)}`
        : say`expected at least ${Number(issue.minimum)} ${issue.origin === 'string' ? say`characters` : say`entries`}`
    case 'too_big':
      return issue.origin === 'number' || issue.origin === 'int'
        ? say`expected a number ${issue.inclusive ? say`at most` : say`under`} ${Number(issue.maximum)}`
        : say`expected at most ${Number(issue.maximum)} ${issue.origin === 'string' ? say`characters` : say`entries`}`
    default:
      return issue.message
  }
}

function flatten(issue: Issue, input: unknown): { path: PropertyKey[]; message: string }[] {
  if (issue.code === 'invalid_union') {
    const { discriminator, options } = issue as { discriminator?: string; options?: unknown[] }
    if (discriminator !== undefined) {
      const path = issue.path.at(-1) === discriminator ? issue.path : [...issue.path, discriminator]
      const message = options ? say`expected ${list(options)}` : say`expected one of the listed kinds`
      return [{ path: [...path], message: say`${message}, got ${shown(valueAt(input, path))}` }]
    }
    const closed = issue.errors.flat().flatMap((inner) => (inner.code === 'invalid_value' ? inner.values : []))
    const message = closed.length > 0 ? say`expected ${list([...new Set(closed)])}` : say`expected one of the allowed forms`
    return [{ path: [...issue.path], message: say`${message}, got ${shown(valueAt(input, issue.path))}` }]
  }
  if (issue.code === 'unrecognized_keys') {
    return issue.keys.map((key) => ({ path: [...issue.path, key], message: say`expected no such field: there is none of this name` }))
  }
  if (issue.code === 'custom') return [{ path: [...issue.path], message: issue.message }]
  return [{ path: [...issue.path], message: say`${expected(issue)}, got ${shown(valueAt(input, issue.path))}` }]
}

/** Every problem of a failed parse at once: where in the input, what was expected, what was there. */
export function problemsOf(error: z.core.$ZodError, input: unknown, root = ''): FieldProblem[] {
  return error.issues.flatMap((issue) => flatten(issue, input)).map(({ path, message }) => ({ path: pathText(path, root), message }))
}
