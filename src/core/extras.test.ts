import { expect, it } from 'vitest'
import { EMBLEMS, EXTRAS, FIRST_EXTRAS } from './extras.ts'
import { MIB } from './files.ts'

it('a sheet’s groups begin with messages and nothing else, subjects for everybody, links by staff', () => {
  expect(EXTRAS.filter((extra) => FIRST_EXTRAS[extra])).toEqual(['messages'])
  expect(FIRST_EXTRAS).toMatchObject({ starts: 'everybody', meetingBy: 'staff' })
  expect([FIRST_EXTRAS.fileBytes, FIRST_EXTRAS.groupBytes]).toEqual([25 * MIB, 250 * MIB])
})

it('emblems are names of drawings, each once', () => {
  expect(EMBLEMS.every((name) => /^[a-z-]+$/.test(name))).toBe(true)
  expect(new Set(EMBLEMS).size).toBe(EMBLEMS.length)
  expect(EMBLEMS.length).toBeGreaterThanOrEqual(20)
})
