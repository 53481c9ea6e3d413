import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { nameFromAddress, readAddressList } from './addressList.ts'

const read = (text: string) => readAddressList(text)?.map(({ name, email }) => [name, email])

describe('a list of addresses', () => {
  it('is read as mail programs write it', () => {
    expect(read('Ada Lind <ADA@s.example>; "Reed, Bo" <bo@s.example>, cem@s.example')).toEqual([
      ['Ada Lind', 'ada@s.example'],
      ['Bo Reed', 'bo@s.example'],
      ['', 'cem@s.example'],
    ])
    expect(read('Lind, Ada <a@s.example>, Reed, Bo <b@s.example>')).toEqual([
      ['Ada Lind', 'a@s.example'],
      ['Bo Reed', 'b@s.example'],
    ])
    expect(readAddressList('\uFEFFa@s.example\n\nb@s.example;\n')).toEqual([
      { line: 1, name: '', email: 'a@s.example' },
      { line: 3, name: '', email: 'b@s.example' },
    ])
  })

  it.each([
    '',
    'Ada',
    'name,email\nAda,a@s.example',
    'Ada,a@s.example',
    'a@s.example, not@one',
    'a@s.example; Ada',
  ])('is not what is something else: %j', (text) => expect(readAddressList(text)).toBeNull())

  it('keeps everybody, whatever sets them off (property)', () => {
    const person = fc.record({
      name: fc.stringMatching(/^[A-Z][a-zé]{1,8} [A-Z][a-z]{1,8}$/),
      email: fc.stringMatching(/^[a-z]{1,6}\.[a-z]{1,6}@[a-z]{2,6}\.example$/),
      angled: fc.boolean(),
    })
    fc.assert(
      fc.property(
        fc.array(person, { minLength: 1, maxLength: 9 }),
        fc.constantFrom(', ', '; ', ';', '\n', ',\n'),
        (all, by) => {
          const text = all.map(({ name, email, angled }) => (angled ? `${name} <${email}>` : email)).join(by)
          expect(read(text)).toEqual(all.map(({ name, email, angled }) => [angled ? name : '', email]))
        },
      ),
    )
  })
})

it('somebody whose address alone is known is called by it', () => {
  expect(nameFromAddress('ada.lind@s.example')).toBe('Ada Lind')
  expect(nameFromAddress('b_reed2@s.example')).toBe('B Reed2')
  expect(nameFromAddress('1234@s.example')).toBe('1234@s.example')
})
