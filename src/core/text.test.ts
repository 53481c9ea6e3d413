import fc from 'fast-check'
import { expect, it } from 'vitest'
import { cleanText, composed, invisibleAt, labelKey } from './text.ts'

it('a text is kept composed, without what nobody sees, with single plain spaces', () => {
  expect(cleanText('\u200FA\u0301da\u00A0 Lind\u202C\u200B ')).toBe('Áda Lind')
  expect(cleanText('Two\r\nlines\tand\u2003more')).toBe('Two lines and more')
  expect(cleanText('soft\u00ADhyphen \uFEFF')).toBe('softhyphen')
})

it('joiners stay where letters and emoji need them', () => {
  expect(cleanText('می\u200Cروم')).toBe('می\u200Cروم')
  expect(cleanText('\u200Cمی\u200C')).toBe('می')
  expect(cleanText('👩\u200D🔬')).toBe('👩\u200D🔬')
})

it('says where something stands that nobody sees', () => {
  expect(invisibleAt('ada@s.example')).toBe(-1)
  expect(invisibleAt(' ada\u200B@s.example')).toBe(3)
  expect(invisibleAt('\u202Aada')).toBe(0)
})

it('labels are the same whatever their spaces, case and composition', () => {
  expect(labelKey(' TUE  Lab')).toBe(labelKey('tuelab'))
  expect(labelKey('Ma\u0301laga')).toBe(labelKey('MÁLAGA'))
})

it('what is clean stays as it is, and is never longer by more than composing makes it (property)', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (text) => {
      const clean = cleanText(text)
      expect(cleanText(clean)).toBe(clean)
      expect(invisibleAt(clean.replace(/[\u200C\u200D]/g, ''))).toBe(-1)
    }),
  )
})

it('is composed, but where marks are piled on a letter, which costs their square and is nobody’s language', () => {
  expect(composed('Zoe\u0301')).toBe('Zo\u00e9')
  expect(composed(`a${'\u0316\u0301'.repeat(15)}`)).not.toBe('')
  const piled = `a${'\u0316\u0301'.repeat(40_000)}`
  expect(composed(piled)).toBe(piled)
  expect(cleanText(piled)).toBe(piled)
})
