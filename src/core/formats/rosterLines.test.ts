import { describe, expect, it } from 'vitest'
import { LIMITS } from '../limits.ts'
import { readRosterCsv } from './rosterCsv.ts'

const read = (text: string) => {
  const reading = readRosterCsv(text, [])
  if (!reading.readable) throw new Error(reading.message)
  return reading
}

describe('lines of a roster', () => {
  it('hold names and numbers as long as the course does, and no longer', () => {
    const at = (name: string, number = '') =>
      read(`name,email,student number\n${name},ada@s.example,${number}`).faults.map(({ field }) => field)
    expect(at('a'.repeat(LIMITS.personName), '1'.repeat(LIMITS.studentNumber))).toEqual([])
    expect(at('a'.repeat(LIMITS.personName + 1))).toEqual(['name'])
    expect(at('Ada', '1'.repeat(LIMITS.studentNumber + 1))).toEqual(['number'])
    const called = (name: string) =>
      read(`name,called,email\nAda Holt,${name},ada@s.example`).faults.map(({ message }) => message)
    expect(called('b'.repeat(LIMITS.personName))).toEqual([])
    expect(called('b'.repeat(LIMITS.personName + 1))).toEqual([
      `A name holds ${LIMITS.personName} characters at most.`,
    ])
  })

  it('may all be without a number; the same number twice is told', () => {
    const head = 'name,email,student number\n'
    expect(read(`${head}Ada,ada@s.example,\nBo,bo@s.example,`).faults).toEqual([])
    expect(read(`${head}Ada,ada@s.example,07\nBo,bo@s.example,07`).faults).toMatchObject([{ line: 3 }])
  })
})
