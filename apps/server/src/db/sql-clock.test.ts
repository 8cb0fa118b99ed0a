import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import ts from 'typescript'

const SOURCE = join(__dirname, '..')
/** What asks the database for its own time: the program's time is an argument, so that tests live on one clock. */
const ITS_OWN_TIME = /\b(now|clock_timestamp|statement_timestamp)\s*\(\)|\bcurrent_(date|time|timestamp)\b|\blocaltime(stamp)?\b/i

function textsOf(path: string): string[] {
  const file = ts.createSourceFile(path, readFileSync(path, 'utf8'), ts.ScriptTarget.Latest)
  const texts: string[] = []
  const visit = (node: ts.Node): void => {
    if (ts.isStringLiteralLike(node) || ts.isTemplateHead(node) || ts.isTemplateMiddleOrTemplateTail(node)) texts.push(node.text)
    node.forEachChild(visit)
  }
  visit(file)
  return texts
}

const files = readdirSync(SOURCE, { recursive: true, encoding: 'utf8' }).filter(
  (name) => name.endsWith('.ts') && !name.endsWith('.test.ts'),
)

test('no SQL of the program asks the database for the time', () => {
  expect(files.length).toBeGreaterThan(80)
  const asking = files.flatMap((name) =>
    textsOf(join(SOURCE, name))
      .filter((text) => ITS_OWN_TIME.test(text))
      .map((text) => `${name}: ${text.slice(0, 80)}`),
  )
  expect(asking).toEqual([])
})

test('it would be found', () => {
  expect(['select 1 where at > now()', 'CURRENT_DATE + 1', 'known_at', 'nowhere()'].map((text) => ITS_OWN_TIME.test(text))).toEqual([
    true,
    true,
    false,
    false,
  ])
})
