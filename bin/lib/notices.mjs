// Writes NOTICES.md: what of other people's work ships with the program, under which licence. Run after packages changed: node bin/lib/notices.mjs
import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { APP_DIR, ROOT, SERVER_DIST } from './paths.mjs'

/** Licences whose terms are kept by naming them and their authors; any other wants somebody to look at it first. */
const KNOWN =
  /^(MIT|MIT-0|ISC|0BSD|BSD-2-Clause|BSD-3-Clause|Apache-2\.0|BlueOak-1\.0\.0|CC0-1\.0|Unlicense|Python-2\.0|OFL-1\.1|MPL-2\.0|LGPL-3\.0-or-later)$/

const filesBelow = (dir) =>
  readdirSync(dir).flatMap((name) => {
    const path = join(dir, name)
    return statSync(path).isDirectory() ? filesBelow(path) : [path]
  })

/** Folders of packages that a bundle's source map names. */
function packagesOf(map) {
  const folders = new Set()
  for (const source of JSON.parse(readFileSync(map, 'utf8')).sources) {
    const at = source.lastIndexOf('node_modules/')
    if (at < 0) continue
    const [first, second] = source.slice(at + 'node_modules/'.length).split('/')
    folders.add(first.startsWith('@') ? `${first}/${second}` : first)
  }
  return folders
}

/** The app built once more with its source maps, elsewhere. */
function packagesOfApp() {
  const dir = mkdtempSync(join(tmpdir(), 'even-round-notices-'))
  try {
    execFileSync(join(ROOT, 'node_modules/.bin/expo'), ['export', '-p', 'web', '--source-maps', '--output-dir', dir], {
      cwd: APP_DIR,
      stdio: 'inherit',
    })
    return new Set(filesBelow(dir).flatMap((file) => (file.endsWith('.map') ? [...packagesOf(file)] : [])))
  } finally {
    rmSync(dir, { recursive: true, force: true })
  }
}

const notice = (folder) => {
  const about = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'))
  const file = readdirSync(folder).find((name) => /^(licen[cs]e|copying)/i.test(name) && statSync(join(folder, name)).isFile())
  const text = file ? readFileSync(join(folder, file), 'utf8') : ''
  const authors = [...text.matchAll(/^\W*(copyright\b.*\d{4}.*|copyright \(c\).*)$/gim)].map(([, line]) => line.trim())
  return {
    name: about.name,
    version: about.version,
    licence: String(about.license ?? 'not said'),
    authors: [...new Set(authors)].slice(0, 4),
  }
}

/** A package with what it is loaded with beside the bundle, as it was installed. */
function withDependencies(name, from, seen = new Map()) {
  const folder = [join(from, 'node_modules', name), join(ROOT, 'node_modules', name)].find((one) => existsSync(join(one, 'package.json')))
  if (!folder || seen.has(folder)) return seen
  seen.set(folder, name)
  const { dependencies = {}, optionalDependencies = {} } = JSON.parse(readFileSync(join(folder, 'package.json'), 'utf8'))
  for (const other of Object.keys({ ...dependencies, ...optionalDependencies })) withDependencies(other, folder, seen)
  return seen
}

const server = packagesOf(join(SERVER_DIST, 'main.mjs.map'))
const FONTS = ['@expo-google-fonts/atkinson-hyperlegible-next', '@expo-google-fonts/zilla-slab']
const folders = new Set(
  [...server, ...packagesOfApp(), ...FONTS]
    .map((name) => join(ROOT, 'node_modules', name))
    .filter((folder) => existsSync(join(folder, 'package.json'))),
)
// Loaded as they are, beside the server's own file.
for (const name of ['@node-rs/argon2', 'sharp', 'piscina']) for (const folder of withDependencies(name, ROOT).keys()) folders.add(folder)

const all = [...folders].map(notice).sort((a, b) => a.name.localeCompare(b.name))
const unknown = all.filter(
  ({ licence }) =>
    !licence
      .replace(/[()]/g, '')
      .split(/ AND | OR /)
      .some((one) => KNOWN.test(one)),
)
const lines = all.map(
  ({ name, version, licence, authors }) => `| ${name} | ${version} | ${licence} | ${authors.join('; ').replaceAll('|', '/')} |`,
)
writeFileSync(
  join(ROOT, 'NOTICES.md'),
  `# Notices

Even Round is MIT ([LICENSE](LICENSE)). It ships with the work of others below; their licences stand in their packages and hold for their parts. Outlines of coasts and borders are public domain. sharp
loads libvips (LGPL-3.0-or-later) as a library of its own, which may be replaced. Written by \`node bin/lib/notices.mjs\`.

| package | version | licence | copyright |
| --- | --- | --- | --- |
${lines.join('\n')}
`,
)
process.stdout.write(
  `${all.length} packages${unknown.length > 0 ? `; to look at: ${unknown.map(({ name, licence }) => `${name} (${licence})`).join(', ')}` : ''}\n`,
)
process.exitCode = unknown.length > 0 ? 1 : 0
