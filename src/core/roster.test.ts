import { expect, it } from 'vitest'
import { compareRoster, numberKey, partsToKeep, type RosterPerson } from './roster.ts'

const ada: RosterPerson = {
  name: 'Ada',
  given: '',
  family: '',
  called: '',
  number: '',
  email: 'a@s.example',
  section: 'Tue lab',
  role: 'student',
  status: 'active',
}
const line = (over: object) => ({
  line: 2,
  name: 'Ada',
  email: 'a@s.example',
  section: 'Tue lab',
  role: null,
  ...over,
})

it('tells new people, changed ones, unchanged ones and those not listed', () => {
  const cem = { ...ada, name: 'Cem', email: 'c@s.example' }
  const staff = { ...ada, email: 'i@s.example', role: 'instructor' as const }
  const found = compareRoster(
    [ada, cem, staff],
    [line({ section: 'Wed lab' }), line({ line: 3, email: 'b@s.example' })],
  )
  expect(found.fresh).toMatchObject([{ email: 'b@s.example', role: 'student' }])
  expect(found.changed).toMatchObject([{ changes: [{ field: 'section', from: 'Tue lab', to: 'Wed lab' }] }])
  expect(found.missing).toEqual([cem])
  expect(compareRoster([ada], [line({})]).unchanged).toEqual([ada])
})

it('keeps role and section where the file does not say', () => {
  const tutor = { ...ada, role: 'tutor' as const }
  expect(compareRoster([tutor], [line({ section: null })]).unchanged).toEqual([tutor])
})

it('brings somebody back who had left', () => {
  const found = compareRoster([{ ...ada, status: 'left' }], [line({})])
  expect(found.changed).toMatchObject([{ changes: [{ field: 'status', from: 'left', to: 'active' }] }])
})

it('knows people by their number where the address is nobody’s, and says what changes', () => {
  const numbered = { ...ada, number: '0042' }
  const found = compareRoster([numbered], [line({ email: 'new@s.example', number: '42' })])
  expect(found.changed).toMatchObject([
    { changes: [{ field: 'email', from: 'a@s.example', to: 'new@s.example' }] },
  ])
  expect(found.missing).toEqual([])
  expect(compareRoster([numbered], [line({ email: '', number: '42' })]).unchanged).toEqual([numbered])
  expect(numberKey(' 00 A7')).toBe('a7')
  expect(numberKey('0')).toBe('0')
})

it('leaves a line whose number and address are two people’s, and one that is nobody’s', () => {
  const bo = { ...ada, name: 'Bo', email: 'b@s.example', number: '7' }
  const found = compareRoster([ada, bo], [line({ number: '7' }), line({ email: '', number: '8' })])
  expect(found.unclear.map(({ message }) => message)).toEqual([
    'The number is that of Bo, the address that of Ada.',
    'Nobody on the roster has this number, and without an address nobody can be added.',
  ])
  // They are in the file all the same.
  expect(found.missing).toEqual([])
  const twice = compareRoster(
    [bo],
    [line({ name: 'Bo', email: 'b@s.example' }), line({ email: '', number: '7' })],
  )
  expect(twice.unclear).toMatchObject([
    { message: 'An earlier line is about Bo already. Keep one of the two.' },
  ])
})

it('keeps what people are called through a file that does not say, and parts that say no more than the words not at all', () => {
  const called = { ...ada, name: 'Ada Lind', called: 'Dee Lind' }
  expect(compareRoster([called], [line({ name: 'Ada Lind', called: '' })]).unchanged).toEqual([called])
  const same = { name: 'Ada Lind', given: 'Ada', family: 'Lind' }
  expect(partsToKeep(same)).toEqual({ given: '', family: '' })
  expect(compareRoster([called], [line(same)]).unchanged).toEqual([called])
  const parted = compareRoster(
    [{ ...ada, name: 'Ana Ruiz Mora' }],
    [line({ name: 'Ana Ruiz Mora', given: 'Ana', family: 'Ruiz Mora' })],
  )
  expect(parted.changed[0]?.changes).toEqual([
    { field: 'given', from: null, to: 'Ana' },
    { field: 'family', from: null, to: 'Ruiz Mora' },
  ])
  // Parts of another name are dropped with it.
  const renamed = compareRoster([{ ...ada, given: 'A', family: 'B' }], [line({ name: 'Ada Nu' })])
  expect(renamed.changed[0]?.changes.map(({ field, to }) => [field, to])).toEqual([
    ['name', 'Ada Nu'],
    ['given', null],
    ['family', null],
  ])
})
