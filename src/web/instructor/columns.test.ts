import { expect, it } from 'vitest'
import { columnsOf } from './columns.ts'

const sections = [{ code: 'tue' }, { code: 'wed' }]
const groups = (...own: (string | null)[]) => own.map((section) => ({ section }))

it('gives each section a column, and groups for all sections one of their own', () => {
  expect(columnsOf(sections, groups('tue'))).toEqual(sections)
  expect(columnsOf(sections, groups('tue', null))).toEqual([...sections, null])
  expect(columnsOf(sections, groups(null, null))).toEqual([null])
  expect(columnsOf([], groups(null))).toEqual([null])
  expect(columnsOf(sections, [])).toEqual(sections)
})
