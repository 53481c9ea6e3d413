import type { Request, Response } from 'express'
import helmet from 'helmet'
import { expect, it } from 'vitest'
import { fixedHeaders } from './fixedHeaders.ts'

it('sets what the other one sets, and refuses one that has to be asked each time', () => {
  const set: string[][] = []
  const res = { setHeader: (name: string, value: string) => set.push([name, value]) } as unknown as Response
  let gone = false
  fixedHeaders(helmet())({} as Request, res, () => {
    gone = true
  })
  expect(gone).toBe(true)
  expect(set.map(([name]) => name)).toContain('Content-Security-Policy')
  expect(Object.fromEntries(set)).toMatchObject({ 'X-Content-Type-Options': 'nosniff' })
  expect(() => fixedHeaders(() => {})).toThrow(/not the same/)
})
