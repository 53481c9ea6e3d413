import { strToU8, zipSync } from 'fflate'
import { describe, expect, it } from 'vitest'
import { unzip, ZipFault } from './unzip.ts'

describe('a zip', () => {
  it('gives the wanted files, wherever they lie in it', () => {
    const zip = zipSync({ 'export/Users.csv': strToU8('a,b'), 'notes.txt': strToU8('x') })
    const found = unzip(zip, ['users.csv'])
    expect([...found.keys()]).toEqual(['users.csv'])
    expect(new TextDecoder().decode(found.get('users.csv'))).toBe('a,b')
  })

  it('that is none, or is damaged, is refused in words', () => {
    expect(() => unzip(strToU8('name,email'), ['users.csv'])).toThrow(/not a zip/)
    const zip = zipSync({ 'users.csv': strToU8('a,b,c '.repeat(500)) })
    zip.fill(0xff, 45, 60)
    expect(() => unzip(zip, ['users.csv'])).toThrow(ZipFault)
  })

  it('that unpacks to far more than it should is stopped on the way', () => {
    const zip = zipSync({ 'users.csv': new Uint8Array(30_000_000) })
    expect(zip.length).toBeLessThan(100_000)
    expect(() => unzip(zip, ['users.csv'], 1_000_000)).toThrow(/more than 1 MB/)
  })
})
