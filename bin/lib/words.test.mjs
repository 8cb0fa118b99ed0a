import { bannedWords, wrongWords } from './words.mjs'

const GLOSSARY = `# Glossary

| word | means | does not mean |
| ---- | ----- | ------------- |
| **hold** | x | |

## Words we do not use

| not              | say              |
| ---------------- | ---------------- |
| Present password | Current password |
| done above       | replace above    |
`
const banned = bannedWords(GLOSSARY)
const found = (source) => wrongWords('screen.tsx', source, banned)

test('the table is read, and nothing else of the glossary', () => {
  expect(banned).toEqual([
    { not: 'Present password', say: 'Current password' },
    { not: 'done above', say: 'replace above' },
  ])
})

test('strings, templates and the text between tags are read; comments, names and parts of words are not', () => {
  expect(found('const a = "present\u0020password"')).toEqual(['screen.tsx:1: “Present password”: say “Current password”'])
  expect(found('\nconst a = `good to $'.concat('{x}, done above $', '{y}`'))).toEqual(['screen.tsx:2: “done above”: say “replace above”'])
  expect(found('const a = <T>Present\n  password</T>')).toHaveLength(1)
  expect(found('// Present password\nconst presentPassword = "undone above"')).toEqual([])
})
