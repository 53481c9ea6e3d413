import type { Request, Response } from 'express'
import pino from 'pino'
import { expect, it } from 'vitest'
import { noticeProxies } from './proxies.ts'

function said(proxies: number, forwarded: (string | undefined)[]): string[] {
  const lines: string[] = []
  const log = pino({ level: 'warn' }, { write: (line: string) => void lines.push(JSON.parse(line).msg) })
  const notice = noticeProxies(proxies, log)
  for (const header of forwarded)
    notice({ get: () => header } as unknown as Request, {} as Response, () => {})
  return lines
}

it('says once that proxies are believed which are not there, or are there and not believed', () => {
  expect(said(0, [undefined, undefined])).toEqual([])
  expect(said(1, ['198.51.100.7', '198.51.100.7, 203.0.113.4'])).toEqual([])
  expect(said(1, ['198.51.100.7', undefined, undefined])).toEqual([expect.stringMatching(/more proxies/)])
  expect(said(2, ['198.51.100.7'])).toHaveLength(1)
  expect(said(0, ['198.51.100.7', '198.51.100.7'])).toEqual([expect.stringMatching(/one network/)])
})
