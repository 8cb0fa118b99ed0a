// Words that people read in the program must not say otherwise what the glossary has a word for: docs/glossary.md, "Words we do not use".
import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import ts from 'typescript'
import { ROOT } from './paths.mjs'

/** Rows of the table: what is not said, and what is said instead. */
export function bannedWords(glossary) {
  const [, table = ''] = glossary.split(/^## Words we do not use$/m)
  return table
    .split('\n')
    .map((line) => line.split('|').map((cell) => cell.trim()))
    .filter((cells) => cells.length === 4 && cells[1] !== '' && !/^-+$/.test(cells[1]) && cells[1] !== 'not')
    .map(([, not, say]) => ({ not, say }))
}

/** What a source says to people: its strings and the text between its tags, each with its line. Names of modules and types are none. */
export function stringsOf(name, source) {
  const file = ts.createSourceFile(name, source, ts.ScriptTarget.Latest, true, name.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS)
  const found = []
  const visit = (node) => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isTypeNode(node)) return
    const text =
      ts.isStringLiteralLike(node) || ts.isJsxText(node) || ts.isTemplateHead(node) || ts.isTemplateMiddleOrTemplateTail(node)
        ? node.text
        : ''
    if (text.trim() !== '')
      found.push({ line: file.getLineAndCharacterOfPosition(node.getStart()).line + 1, text: text.replace(/\s+/g, ' ') })
    ts.forEachChild(node, visit)
  }
  visit(file)
  return found
}

const escaped = (words) => words.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')

/** Where a source says a word that is not said, whole words whatever their case. */
export function wrongWords(name, source, banned) {
  return stringsOf(name, source).flatMap(({ line, text }) =>
    banned
      .filter(({ not }) => new RegExp(`(?<!\\p{L})${escaped(not)}(?!\\p{L})`, 'iu').test(text))
      .map(({ not, say }) => `${name}:${line}: “${not}”: say “${say}”`),
  )
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const banned = bannedWords(readFileSync(join(ROOT, 'docs/glossary.md'), 'utf8'))
  const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', 'apps', 'packages'], {
    cwd: ROOT,
    encoding: 'utf8',
  })
    .split('\n')
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$|\/migrations\//.test(file))
  const wrong = files.flatMap((file) => wrongWords(file, readFileSync(join(ROOT, file), 'utf8'), banned))
  process.stdout.write(`${wrong.length === 0 ? `${banned.length} words, ${files.length} files: none of them is said` : wrong.join('\n')}\n`)
  process.exitCode = wrong.length === 0 && banned.length > 0 ? 0 : 1
}
