import { expect, it } from 'vitest'
import { compareRoster, type RosterPerson } from './roster.ts'

const ada: RosterPerson = {
  name: 'Ada',
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
