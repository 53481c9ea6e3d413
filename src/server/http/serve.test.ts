import { once } from 'node:events'
import type { AddressInfo } from 'node:net'
import express, { Router } from 'express'
import { afterEach, expect, it } from 'vitest'
import { plainRoute } from '../../contract/route.ts'
import { ProblemError } from './problem.ts'
import { createServe, type ServeTools } from './serve.ts'

let close = () => {}
afterEach(() => close())

it('answers a refusal where it falls, and holds it against no route that comes after', async () => {
  const router = Router()
  const refused: unknown[] = []
  const serve = createServe(router, {
    clock: () => '2026-05-04T08:00:00.000Z',
    refuse: (error, res) => {
      refused.push(error)
      res.status(409).end()
    },
  } as ServeTools)
  const refuses = new ProblemError('group-full', 'Full.')
  serve(plainRoute<{ a: number }>()('GET', '/api/full', 'anyone'), () => {
    throw refuses
  })
  serve(plainRoute<{ a: number }>()('GET', '/api/late', 'anyone'), async () => {
    await Promise.resolve()
    throw refuses
  })
  const handedOn: unknown[] = []
  const app = express().use(router)
  app.use((error: unknown, _req: express.Request, res: express.Response, _next: express.NextFunction) => {
    handedOn.push(error)
    res.status(500).end()
  })
  const server = app.listen(0, '127.0.0.1')
  close = () => void server.close()
  await once(server, 'listening')
  const at = `http://127.0.0.1:${(server.address() as AddressInfo).port}`
  expect((await fetch(`${at}/api/full`)).status).toBe(409)
  expect((await fetch(`${at}/api/late`)).status).toBe(409)
  expect(refused).toEqual([refuses, refuses])
  expect(handedOn).toEqual([])
})
