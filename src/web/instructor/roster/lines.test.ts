import fc from 'fast-check'
import { expect, it } from 'vitest'
import { lineOf, withLine } from './lines.ts'

it('a line is taken out and put back, and the ends of the others stay', () => {
  const text = 'name;email\r\nAda;ada\nBo;b@s.example\r'
  expect(lineOf(text, 2)).toBe('Ada;ada')
  expect(withLine(text, 2, 'Ada;\nada@s.example')).toBe('name;email\r\nAda; ada@s.example\nBo;b@s.example\r')
  expect(withLine(text, 9, 'x')).toBe(text)
  expect(lineOf(text, 9)).toBe('')
})

it('putting a line back as it is changes nothing (property)', () => {
  fc.assert(
    fc.property(
      fc.array(fc.constantFrom('a', '', 'b;c', '\n', '\r\n', '\r')),
      fc.integer({ min: 1, max: 9 }),
      (parts, line) => {
        const text = parts.join('')
        expect(withLine(text, line, lineOf(text, line))).toBe(text)
      },
    ),
  )
})
