import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { expect, it } from 'vitest'

const HERE = fileURLToPath(new URL('../src/web/', import.meta.url))

/** What no button, question or toast says: riddles where everyday words are looked for. */
const NOT_ON_BUTTONS = [
  'Keep it',
  'Leave it',
  'Do it',
  'Set it',
  'Take away',
  'Take it back',
  'Take it all back',
  'Take it elsewhere',
  'Take the marks elsewhere',
  'Take it out again',
  'Bring in',
  'Bring files',
  'Drop',
  'Keep one',
  'Compare no longer',
  'What went out',
  'Not now',
  'Apply them',
  'Release them',
  'Open it',
  'Send it',
  'Copy it',
  'Archive it',
  'Delete it',
  'Close it',
  'Put away',
]

function pagesBelow(folder) {
  return readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    if (statSync(path).isDirectory()) return pagesBelow(path)
    return /\.tsx?$/.test(name) && !/\.test\.tsx?$/.test(name) ? [path] : []
  })
}

/** The texts of a page: what stands in quotes, and between tags on lines of their own. */
function textsIn(source) {
  const code = source.replace(/\/\*[\s\S]*?\*\/|^\s*\/\/.*$/gm, '')
  const quoted = [...code.matchAll(/'((?:[^'\\\n]|\\.)*)'|"([^"\n]*)"|`([^`]*)`/g)].map(
    ([, single, double, template]) => single ?? double ?? template ?? '',
  )
  const between = [...code.matchAll(/>\s*([A-Z][^<>{}]*?)\s*[<{]/g)].map(([, text]) => text ?? '')
  return [...quoted, ...between].map((text) => text.trim())
}

it('buttons say what they do, with a verb and an object that people look for', () => {
  const found = pagesBelow(HERE).flatMap((path) => {
    const texts = textsIn(readFileSync(path, 'utf8'))
    return NOT_ON_BUTTONS.filter((word) =>
      texts.some((text) => text === word || new RegExp(`^${word}\\b(?! (no|the|a) )`).test(text)),
    ).map((word) => `${path.slice(HERE.length)}: ${word}`)
  })
  expect(found).toEqual([])
})

it('finds such a word where it stands', () => {
  expect(textsIn('<Button>\n  Keep it\n</Button>')).toContain('Keep it')
  expect(textsIn("<Ask no='Leave it' />")).toContain('Leave it')
})
