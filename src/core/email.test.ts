import { describe, expect, it } from 'vitest'
import { isEmail, normalEmail } from './email.ts'

describe('addresses', () => {
  it.each(['a@b.example', 'first.last+tag@sub.school.example'])('%s is one', (text) =>
    expect(isEmail(text)).toBe(true),
  )
  it.each(['', 'a', 'a@b', 'a b@c.example', 'a@b..example', 'a@@b.example', `${'x'.repeat(250)}@b.example`])(
    '%s is none',
    (text) => expect(isEmail(text)).toBe(false),
  )
  it('are kept in lower case without blanks around', () => {
    expect(normalEmail('  Ada@School.Example ')).toBe('ada@school.example')
  })
})

it('one address in two spellings is one', () => {
  expect(normalEmail(' Jose\u0301@School.example ')).toBe(normalEmail('jos\u00e9@school.example'))
})
