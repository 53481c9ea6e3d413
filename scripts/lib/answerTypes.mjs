// What the routes of the contract answer, as JSON Schemas, from the types that they are given.
import { mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { root } from './setup.mjs'

const CONTRACT = join(root, 'src/contract')
const DEFINED =
  /(?:\/\*\*((?:(?!\*\/)[\s\S])*)\*\/\n)?export const (\w+) = (?:whileArchived\(\s*)?(?:plainRoute|route)</g

/** The files of the contract, by their names without endings. */
export const contractFiles = () =>
  readdirSync(CONTRACT)
    .filter((name) => name.endsWith('.ts') && !name.endsWith('.test.ts'))
    .map((name) => name.slice(0, -3))

/** What stands between angle brackets from a place on, where the one that opens was passed. */
function untilClosed(source, from) {
  for (let at = from, deep = 1; at < source.length; at++) {
    if (source[at] === '<') deep += 1
    if (source[at] === '>' && source[at - 1] !== '=') deep -= 1
    if (deep === 0) return source.slice(from, at)
  }
  throw new Error(`A type is not closed: ${source.slice(from, from + 80)}`)
}

/** A doc comment in plain sentences. */
const plain = (comment = '') =>
  comment
    .split('\n')
    .map((line) => line.replace(/^\s*\*? ?/, ''))
    .join(' ')
    .replace(/\{@link (\w+)\}/g, '$1')
    .replace(/\s+/g, ' ')
    .trim()

/** The routes of one file of the contract, as its text defines them: name, words, type of the answer. */
function definedIn(file) {
  const source = readFileSync(join(CONTRACT, `${file}.ts`), 'utf8')
  return [...source.matchAll(DEFINED)].map((found) => ({
    name: found[2],
    words: plain(found[1]),
    answer: untilClosed(source, found.index + found[0].length),
  }))
}

/**
 * The words and the answer of every route of the contract: for `roster.addPerson` what its doc comment says, and the
 * schema of what it answers, with the definitions that those schemas name.
 */
export async function answersOfContract() {
  const { createGenerator } = await import('ts-json-schema-generator')
  const cache = join(root, 'node_modules/.cache/haplon')
  mkdirSync(cache, { recursive: true })
  const words = {}
  const parts = contractFiles().map((file) => {
    const routes = definedIn(file)
    for (const { name, words: said } of routes) words[`${file}.${name}`] = said
    // The types are read where they stand, so a copy of the file that names them together stands beside it in the cache.
    const fields = routes
      .filter(({ answer }) => answer !== 'never')
      .map(({ name, answer }) => `  '${file}.${name}': ${answer}`)
    const source = readFileSync(join(CONTRACT, `${file}.ts`), 'utf8').replace(
      /from '(\.\.\/[^']+)'/g,
      (_, path) => `from '${join(CONTRACT, path)}'`,
    )
    const named = `export interface AnswersOf_${file} {\n${fields.join('\n')}\n}\n`
    writeFileSync(join(cache, `${file}.ts`), `${source}\n${named}`)
    return file
  })
  const all = join(cache, 'answers.ts')
  const imported = parts.map((file) => `import type { AnswersOf_${file} } from './${file}.ts'`)
  const joined = parts.map((file) => `AnswersOf_${file}`).join(', ')
  writeFileSync(all, `${imported.join('\n')}\nexport interface AllAnswers extends ${joined} {}\n`)
  const generator = createGenerator({
    path: all,
    tsconfig: join(root, 'tsconfig.core.json'),
    type: 'AllAnswers',
    skipTypeCheck: true,
    expose: 'export',
    jsDoc: 'extended',
    additionalProperties: true,
  })
  const { definitions } = generator.createSchema('AllAnswers')
  const { AllAnswers, ...others } = definitions
  return { words, answers: AllAnswers.properties, definitions: others }
}
