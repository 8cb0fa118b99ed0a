import { z } from 'zod'
import { problemsOf } from './problems'

const schema = z.strictObject({
  name: z.string().min(2).max(5),
  count: z.int().min(1).max(9),
  share: z.number().gt(0).lt(1),
  tags: z.array(z.string()).min(1).max(2),
  kind: z.discriminatedUnion('of', [z.object({ of: z.literal('a'), a: z.number() }), z.object({ of: z.literal('b') })]),
})
const good = { name: 'abc', count: 2, share: 0.5, tags: ['x'], kind: { of: 'b' } }
const problems = (more: object) => {
  const input = { ...good, ...more }
  const parsed = schema.safeParse(input)
  return parsed.success ? [] : problemsOf(parsed.error, input).map(({ path, message }) => `${path}: ${message}`)
}

test.each([
  [{ name: 'a' }, 'name: expected at least 2 characters, got "a"'],
  [{ name: 'abcdef' }, 'name: expected at most 5 characters, got "abcdef"'],
  [{ count: 0 }, 'count: expected a number at least 1, got 0'],
  [{ count: 1.5 }, 'count: expected a whole number, got 1.5'],
  [{ count: 10 }, 'count: expected a number at most 9, got 10'],
  [{ share: 0 }, 'share: expected a number over 0, got 0'],
  [{ share: 1 }, 'share: expected a number under 1, got 1'],
  [{ tags: [] }, 'tags: expected at least 1 entries, got []'],
  [{ tags: ['x', 2] }, 'tags[1]: expected a value of type string, got 2'],
  [{ kind: { of: 'c' } }, 'kind.of: expected "a" | "b", got "c"'],
  [{ kind: { of: 'a' } }, 'kind.a: expected a value of type number, got nothing'],
  [{ extra: 1 }, 'extra: expected no such field: there is none of this name'],
])('%j', (more, said) => {
  expect(problems(more)).toEqual([said])
})

test('all of them at once; a long value is shortened; the root has a name', () => {
  expect(problems({ name: 'a', count: 0 })).toHaveLength(2)
  expect(problems({ name: 'x'.repeat(200) })[0]?.length).toBeLessThan(120)
  const parsed = schema.safeParse(7)
  expect(parsed.success ? [] : problemsOf(parsed.error, 7, '[3]')).toEqual([
    { path: '[3]', message: 'expected a value of type object, got 7' },
  ])
})
