import { EventEmitter } from 'node:events'
import type { Request, Response } from 'express'
import pino from 'pino'
import { expect, it } from 'vitest'
import { logRequests } from './log.ts'

it('says what was asked, and never the private address of a calendar', () => {
  const lines: string[] = []
  const log = pino({ level: 'debug' }, { write: (line: string) => void lines.push(line) })
  const [logging] = logRequests(log)
  for (const originalUrl of ['/api/calendars/secret-token.ics', '/api/sheets/abc/student?since=4']) {
    const res = Object.assign(new EventEmitter(), { statusCode: 200 })
    logging?.({ method: 'GET', originalUrl } as Request, res as unknown as Response, () => {})
    res.emit('finish')
  }
  expect(lines.join()).not.toContain('secret')
  expect(lines.map((line) => JSON.parse(line).path)).toEqual(['/api/calendars/…', '/api/sheets/abc/student'])
})

it('says nothing at other levels, and is in nobody’s way there', () => {
  expect(logRequests(pino({ level: 'info' }, { write: () => {} }))).toEqual([])
})
