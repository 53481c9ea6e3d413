import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { distinctNames, keptName, MIB, MOST_FILE_NAME, packedName, sayBytes, shownAs } from './files.ts'

describe('a file’s name as it is kept', () => {
  it.each([
    ['report.pdf', 'report.pdf'],
    ['../../etc/passwd', 'passwd'],
    ['C:\\work\\bench notes.txt', 'bench notes.txt'],
    ['photo\u202Egnp.exe', 'photognp.exe'],
    ['a\u0000b\nc.txt', 'abc.txt'],
    ['what? "why": <how>|*.md', 'what- -why-- -how---.md'],
    ['  .hidden.  ', 'hidden'],
    ['Ångström.pdf', 'Ångström.pdf'],
  ])('%j is kept as %j', (name, kept) => {
    expect(keptName(name)).toBe(kept)
  })

  it.each(['', '../', '...', '\u202E\u200F', '***'])('of %j nothing is left', (name) => {
    expect(keptName(name)).toBeNull()
  })

  it('is never a path, never hides how it reads, and is short enough, for any name', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 400 }), (name) => {
        const kept = keptName(name)
        if (kept === null) return
        expect(kept).not.toMatch(/[/\\\p{Cc}\p{Cf}"*:<>?|]|^\.|^\s|\s$/u)
        expect([...kept].length).toBeLessThanOrEqual(MOST_FILE_NAME)
        expect(keptName(kept)).not.toBeNull()
      }),
    )
  })

  it('keeps its ending when it is shortened', () => {
    expect(keptName(`${'a'.repeat(300)}.pdf`)).toBe(`${'a'.repeat(116)}.pdf`)
    expect(keptName(`v1.2${'b'.repeat(300)}.mp4`)).toBe(`v1.2${'b'.repeat(112)}.mp4`)
    expect(keptName('a'.repeat(300))).toBe('a'.repeat(120))
    // What is longer than any ending is none.
    expect(keptName(`${'a'.repeat(118)}.abcdefghijk`)).toBe(`${'a'.repeat(118)}.a`)
  })
})

it('names that repeat are told apart', () => {
  expect(distinctNames(['a.pdf', 'A.pdf', 'a.pdf', 'b', 'b'])).toEqual([
    'a.pdf',
    'A (2).pdf',
    'a (3).pdf',
    'b',
    'b (2)',
  ])
})

it.each([
  [1, '1 byte'],
  [640, '640 bytes'],
  [1536, '1.5 KiB'],
  [3 * MIB, '3 MiB'],
  [250.4 * MIB, '250 MiB'],
  [2048 * MIB, '2 GiB'],
])('%d bytes are %s', (bytes, said) => {
  expect(sayBytes(bytes)).toBe(said)
})

it('pictures, pages and text are shown; what can carry scripts is not', () => {
  expect(
    ['image/png', 'application/pdf', 'text/plain', 'image/svg+xml', 'text/html', 'application/zip'].map(
      shownAs,
    ),
  ).toEqual(['picture', 'pages', 'text', 'not', 'not', 'not'])
})

it('names that go into an archive can be unpacked everywhere: no device’s, not too long in octets', () => {
  expect(packedName('report.pdf')).toBe('report.pdf')
  expect(packedName('CON.txt')).toBe('CON-.txt')
  expect(packedName('com1')).toBe('com1-')
  expect(packedName('conserves.txt')).toBe('conserves.txt')
  const long = packedName(`${'発酵'.repeat(60)}.pdf`)
  expect(new TextEncoder().encode(long).length).toBeLessThanOrEqual(180)
  expect(long).toMatch(/酵\.pdf$|発\.pdf$/)
})
