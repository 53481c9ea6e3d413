import { expect, it } from 'vitest'
import { personFinder } from './who.ts'

const find = personFinder([
  { key: 'p1', name: 'Zoë Lind', email: 'zoe@s.example', number: '0042' },
  { key: 'p2', name: 'Bao Lin', email: 'b@s.example', number: '' },
  { key: 'p3', name: 'Bao Lin', email: 'c@s.example' },
])
const said = (more: object) => ({ email: '', number: '', name: '', ...more })

it.each([
  [{ email: ' ZOE@s.example ', number: '9', name: 'Somebody' }, 'p1'],
  [{ number: '42', name: 'Bao Lin' }, 'p1'],
  [{ name: 'zoe\u0308  lind' }, 'p1'],
  [{ name: 'Lind, Zoë' }, 'p1'],
])('finds %j', (more, key) => {
  expect(find(said(more))).toMatchObject({ person: { key } })
})

it.each([
  [{ email: 'nobody@s.example', number: '42' }, 'email', /has this address/],
  [{ number: '43' }, 'number', /has this student number/],
  [{ name: 'Bao Lin' }, 'name', /2 people are called that/],
  [{ name: 'Nobody' }, 'name', /is called that/],
  [{}, 'name', /is called that/],
])('says of %j what is wrong', (more, field, message) => {
  expect(find(said(more))).toMatchObject({ field, message: expect.stringMatching(message) })
})
