import fc from 'fast-check'
import { expect, it } from 'vitest'
import { peopleIn } from './peopleIn.ts'

const roster = [
  { code: 'a', name: 'Ada Lindqvist', email: 'ada@school.example' },
  { code: 'b', name: 'Bø Åse', email: 'bo@school.example' },
  { code: 'c', name: 'Chi Tran', email: 'chi@school.example' },
  { code: 'd', name: 'Chi Tran', email: 'tran@school.example' },
]

it('finds people by address or name, in lines of their own or of a table, each once', () => {
  const text =
    '\uFEFFname,email\nAda Lindqvist\n\nBO@school.example\r\nLindqvist, Ada\n"Chi Tran";tran@school.example;Tue'
  expect(peopleIn(text, roster)).toEqual({ people: ['a', 'b', 'd'], faults: [] })
  expect(peopleIn('bø åse\nBo Ase', roster).people).toEqual(['b'])
})

it('finds everybody of a list of addresses, and says who of it is nobody', () => {
  const text = 'Ada <ada@school.example>; bo@school.example, eve@school.example'
  expect(peopleIn(text, roster)).toEqual({
    people: ['a', 'b'],
    faults: [{ line: 1, found: 'eve@school.example', message: expect.stringMatching(/of this address/) }],
  })
})

it('says of each line that names nobody, or more than one, which it is and what to do', () => {
  const { people, faults } = peopleIn('Ada Lindqvist\nEve Nobody\neve@school.example\nChi Tran', roster)
  expect(people).toEqual(['a'])
  expect(faults).toEqual([
    { line: 2, found: 'Eve Nobody', message: 'Nobody of that name is an active student of the course.' },
    {
      line: 3,
      found: 'eve@school.example',
      message: 'Nobody of this address is an active student of the course.',
    },
    { line: 4, found: 'Chi Tran', message: 'Several students are called that. Give the address.' },
  ])
  expect(peopleIn('', roster)).toEqual({ people: [], faults: [] })
})

it('finds exactly those who stand in it, whatever stands around them', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom(...roster), { maxLength: 8 }), fc.string(), (picked, noise) => {
      const lines = picked.flatMap(({ email }) => [email.toUpperCase(), noise.replace(/[\w@.]/g, '-')])
      const { people } = peopleIn(lines.join('\n'), roster)
      expect(new Set(people)).toEqual(new Set(picked.map(({ code }) => code)))
    }),
  )
})

it('finds people by their student number, and by what they are called', () => {
  const known = [
    { code: 'a', name: 'Aleksandra Strand', called: 'Ola Strand', email: 'a@s.example', number: '0042' },
    { code: 'b', name: 'Bo Reed', called: '', email: 'b@s.example', number: '' },
  ]
  expect(peopleIn('42', known)).toEqual({ people: ['a'], faults: [] })
  expect(peopleIn('Strand, Ola\nBo Reed', known)).toEqual({ people: ['a', 'b'], faults: [] })
  expect(peopleIn('Aleksandra Strand', known).people).toEqual(['a'])
})
