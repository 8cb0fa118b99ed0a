// Every message that is said stands in every language: what is missing in a catalogue, and what nobody says any more.
import { execFileSync } from 'node:child_process'
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import ts from 'typescript'
import { ROOT } from './paths.mjs'

const WORDS = join(ROOT, 'packages/core/src/words')
const TAGS = new Set(['say', 'caution'])

const idOfTemplate = (template) =>
  ts.isNoSubstitutionTemplateLiteral(template)
    ? template.text
    : template.templateSpans.reduce((text, span, index) => `${text}{${index}}${span.literal.text}`, template.head.text)

/** Attributes whose text a person reads, whatever its length. */
const READ_ALOUD = new Set(['label', 'title', 'hint', 'text', 'unitText', 'act', 'placeholder', 'none', 'what', 'aria-label'])
const UNITS_AND_NAMES = new Set(['Even Round', 'mg/L', 'kg/L', 'min'])
/** Four words in a row are a sentence; lists of names that are matched, and errors of the program's own making, are nothing a person reads. */
const PROSE = /(?:[\p{L}’]{2,}[,:;]? ){3}[\p{L}’]{2,}/u
const NOT_READ = /^(TypeError|RangeError|SyntaxError)$/
const SCREENS_AND_CORE = /^(apps\/app\/src\/(?!testing\/)|packages\/core\/src\/(?!.*\/mutants\/))/

const textOf = (node) =>
  ts.isStringLiteralLike(node)
    ? node.text
    : ts.isJsxText(node)
      ? node.text.trim()
      : ts.isTemplateExpression(node)
        ? idOfTemplate(node)
        : null

/** Whether a person would read this text though no catalogue knows it. */
function isUntold(node) {
  const text = textOf(node)
  const { parent } = node
  if (text === null || UNITS_AND_NAMES.has(text)) return false
  if (ts.isTaggedTemplateExpression(parent) || ts.isArrayLiteralExpression(parent) || ts.isImportDeclaration(parent)) return false
  if (ts.isCallExpression(parent) && /^(many|sayFor)$/.test(parent.expression.getText())) return false
  if (ts.isNewExpression(parent) && NOT_READ.test(parent.expression.getText())) return false
  if (ts.isJsxAttribute(parent)) return READ_ALOUD.has(parent.name.getText()) && /\p{L}{3}/u.test(text)
  return PROSE.test(text)
}

/** What a source says: id, whether it is a caution, and the line it stands in. */
export function messagesOf(name, source) {
  const file = ts.createSourceFile(name, source, ts.ScriptTarget.Latest, true, name.endsWith('x') ? ts.ScriptKind.TSX : ts.ScriptKind.TS)
  const found = []
  const add = (node, id, kind) => found.push({ id, kind, name, line: file.getLineAndCharacterOfPosition(node.getStart()).line + 1 })
  // Screens name things where they are defined, after the language is there; a server speaks each request's, and knows it inside of functions only.
  const early = !name.startsWith('apps/app/')
  const visit = (node, inFunction = false) => {
    const tagged = ts.isTaggedTemplateExpression(node) && ts.isIdentifier(node.tag) && TAGS.has(node.tag.text)
    if (tagged && early && !inFunction) add(node, `${name}: “${idOfTemplate(node.template)}” is said before the language is known`, 'wrong')
    else if (tagged) add(node, idOfTemplate(node.template), node.tag.text)
    if (ts.isTaggedTemplateExpression(node) && ts.isCallExpression(node.tag) && node.tag.expression.getText() === 'sayFor') {
      const [meaning] = node.tag.arguments
      if (ts.isStringLiteralLike(meaning)) add(node, `${idOfTemplate(node.template)} @${meaning.text}`, 'say')
      else add(node, `${name}: sayFor() wants its meaning written out`, 'wrong')
    }
    if (ts.isCallExpression(node) && ts.isIdentifier(node.expression) && node.expression.text === 'many') {
      const [, one, other] = node.arguments
      if (ts.isStringLiteralLike(one) && ts.isStringLiteralLike(other)) add(node, `# ${one.text}|# ${other.text}`, 'many')
      else add(node, `${name}: many() wants both nouns written out`, 'wrong')
    }
    if (SCREENS_AND_CORE.test(name) && isUntold(node))
      add(node, `${name}: “${textOf(node)}” is read by people and stands in no catalogue`, 'wrong')
    ts.forEachChild(node, (child) => visit(child, inFunction || ts.isFunctionLike(node)))
  }
  visit(file)
  return found
}

/** All that the program says, each id once, with where it is said first. */
export function allMessages() {
  const files = execFileSync('git', ['ls-files', '--cached', '--others', '--exclude-standard', 'apps', 'packages'], {
    cwd: ROOT,
    encoding: 'utf8',
  })
    .split('\n')
    .filter((file) => /\.tsx?$/.test(file) && !/\.test\.tsx?$|\/migrations\/|core\/src\/words\//.test(file))
  const all = new Map()
  for (const file of files)
    for (const one of messagesOf(file, readFileSync(join(ROOT, file), 'utf8'))) if (!all.has(one.id)) all.set(one.id, one)
  return all
}

const placesOf = (text) => (text.match(/\{\w+\}/g) ?? []).sort().join(' ')

/** What is wrong with a catalogue, a line each. */
export function faultsOf(language, messages, said) {
  const forms = new Intl.PluralRules(language).resolvedOptions().pluralCategories
  return [
    ...[...said.values()].flatMap(({ id, kind, name, line }) => {
      const where = `${language}: ${name}:${line}: “${id}”`
      const text = messages[id]
      if (kind === 'wrong') return [id]
      if (text === undefined) return [`${where} is missing`]
      if (kind === 'many')
        return forms.filter((form) => !text[form]?.includes('#')).map((form) => `${where} has no form for “${form}” with its #`)
      if (typeof text !== 'string' || text.trim() === '') return [`${where} has no text`]
      return placesOf(text) === placesOf(id) ? [] : [`${where} has other places: “${text}”`]
    }),
    ...Object.keys(messages)
      .filter((id) => !said.has(id))
      .map((id) => `${language}: “${id}” is said nowhere`),
  ]
}

/** The languages beside English, by the folder each has, with their messages by id. */
export const catalogues = () =>
  readdirSync(WORDS, { withFileTypes: true })
    .filter((entry) => entry.isDirectory() && existsSync(join(WORDS, entry.name, 'messages.json')))
    .map(({ name }) => [name, JSON.parse(readFileSync(join(WORDS, name, 'messages.json'), 'utf8'))])

/** The ids of all cautions, for whoever reads a language against the English; kept as a file, since screens cannot look into sources. */
const CAUTIONS = join(WORDS, 'cautions/ids.json')
const cautionIds = (said) =>
  [...said.values()]
    .filter(({ kind }) => kind === 'caution')
    .map(({ id }) => id)
    .sort()
const written = (value) => `${JSON.stringify(value, null, 2)}\n`

/** Which wording of the cautions a catalogue has, for a signature to be good for: FNV-1a (Fowler, Noll and Vo), 32 bits, of every pair. */
export function markOf(ids, messages) {
  let hash = 0x811c9dc5
  const text = JSON.stringify(ids.map((id) => ({ english: id, own: typeof messages[id] === 'string' ? messages[id] : id })))
  for (let index = 0; index < text.length; index++) hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193)
  return (hash >>> 0).toString(16).padStart(8, '0')
}

/** Files that follow from the sources and the catalogues, with what they should hold. */
const following = (said) => {
  const ids = cautionIds(said)
  return [
    [CAUTIONS, written(ids)],
    ...catalogues().map(([language, messages]) => [join(WORDS, language, 'mark.json'), written({ cautions: markOf(ids, messages) })]),
  ]
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  const said = allMessages()
  if (process.argv[2] === '--cautions') {
    for (const [file, text] of following(said)) writeFileSync(file, text)
  } else if (process.argv[2] === '--list') process.stdout.write(`${JSON.stringify([...said.values()], null, 1)}\n`)
  else {
    const languages = catalogues()
    const faults = [
      ...languages.flatMap(([language, messages]) => faultsOf(language, messages, said)),
      ...following(said)
        .filter(([file, text]) => !existsSync(file) || readFileSync(file, 'utf8') !== text)
        .map(([file]) => `${file} is old: node bin/lib/messages.mjs --cautions`),
    ]
    process.stdout.write(
      `${faults.length === 0 ? `${said.size} messages, complete in ${languages.length + 1} languages` : faults.join('\n')}\n`,
    )
    process.exitCode = faults.length === 0 && languages.length > 0 ? 0 : 1
  }
}
