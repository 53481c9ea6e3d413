import { once } from 'node:events'
import type { AddressInfo } from 'node:net'
import compression from 'compression'
import express, { type Express } from 'express'
import { afterEach, expect, it } from 'vitest'
import { sendJson } from './json.ts'

let close = () => {}
afterEach(() => close())

/** Lets an application listen on a free port; gives its address. */
async function listening(app: Express): Promise<string> {
  const server = app.listen(0, '127.0.0.1')
  close = () => void server.close()
  await once(server, 'listening')
  return `http://127.0.0.1:${(server.address() as AddressInfo).port}`
}

it('sends what it is given, counted in bytes and not in letters', async () => {
  const value = { title: 'Käse – 発酵 🍶', none: null }
  const address = await listening(express().get('/', (_req, res) => sendJson(res.status(201), value)))
  const answer = await fetch(address)
  expect(answer.status).toBe(201)
  expect(answer.headers.get('content-type')).toBe('application/json; charset=utf-8')
  expect(answer.headers.get('content-length')).toBe(String(Buffer.byteLength(JSON.stringify(value))))
  expect(await answer.json()).toEqual(value)
})

it('sends its headers alone to whoever asks for no more', async () => {
  const address = await listening(express().get('/', (_req, res) => sendJson(res, { a: 1 }, 'application/x')))
  const answer = await fetch(address, { method: 'HEAD' })
  expect(answer.headers.get('content-type')).toBe('application/x; charset=utf-8')
  expect(answer.headers.get('content-length')).toBe('7')
  expect(await answer.text()).toBe('')
})

it('is compressed where that is bound before it', async () => {
  const value = { text: 'x'.repeat(5_000) }
  const app = express()
    .use(compression())
    .get('/', (_req, res) => sendJson(res, value))
  const answer = await fetch(await listening(app), { headers: { 'Accept-Encoding': 'gzip' } })
  expect(answer.headers.get('content-encoding')).toBe('gzip')
  expect(answer.headers.get('content-length')).toBeNull()
  expect(await answer.json()).toEqual(value)
})
