import { describe, expect, it } from 'vitest'
import { readText } from './readText.ts'

const WORDS = 'name;email\nÅse Bø–Łuk;a@s.example'
const utf16 = (bigEndian: boolean) => {
  const bytes = Buffer.from(`\uFEFF${WORDS}`, 'utf16le')
  return bigEndian ? bytes.swap16() : bytes
}

describe('a text file', () => {
  it.each([
    ['UTF-8', Buffer.from(WORDS)],
    ['UTF-8 with a mark', Buffer.from(`\uFEFF${WORDS}`)],
    ['UTF-16, little end first', utf16(false)],
    ['UTF-16, big end first', utf16(true)],
  ])('in %s is read as it was written', async (_, bytes) => {
    expect((await readText(new Blob([new Uint8Array(bytes)]))).replace(/^\uFEFF/, '')).toBe(WORDS)
  })

  it('in Windows-1252 is read where it is no UTF-8', async () => {
    expect(await readText(new Blob([new Uint8Array([0xc5, 0x73, 0x65, 0x20, 0xe9, 0xdf])]))).toBe('Åse éß')
  })
})
