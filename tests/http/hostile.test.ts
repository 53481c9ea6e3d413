import { gzipSync } from 'node:zlib'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Problem } from '../../src/contract/problems.ts'
import { type Harness, type School, setUpSchool, startHarness, studentEmail } from './harness.ts'

let harness: Harness
let school: School
beforeAll(async () => {
  harness = await startHarness()
  school = await setUpSchool(harness, { students: { '': 2 }, topics: ['Tempeh'] })
})
afterAll(() => harness.end())

/** Sends a body as it is. */
const raw = async (
  method: string,
  path: string,
  body: string | Uint8Array<ArrayBuffer>,
  headers: Record<string, string> = {},
  cookie = school.owner.cookie,
) => {
  const answer = await fetch(`${harness.address}${path}`, {
    method,
    headers: {
      'Content-Type': 'application/json',
      'Sec-Fetch-Site': 'same-origin',
      Cookie: cookie,
      ...headers,
    },
    body,
  })
  return { status: answer.status, body: (await answer.json().catch(() => null)) as Problem | null }
}
const at = () => `/api/sheets/${school.sheet}`

describe('what no page of ours would send', () => {
  it.each([
    ['a number for an address', '{"email":5}'],
    ['nothing', 'null'],
    ['a list', '[1,2]'],
    ['a text', '"text"'],
    ['an address in a list', '{"email":["a@b.example"]}'],
    ['an address in an object', '{"email":{"toString":1}}'],
    ['a prototype', '{"email":"a@b.example","__proto__":{"admin":true}}'],
    ['numbers all over', '{"email":5,"code":123456}'],
    ['half of JSON', '{"email":"a@b.exa'],
    ['a nest of lists', '['.repeat(100_000)],
    ['a deep nest', `{"email":${'['.repeat(2_000)}${']'.repeat(2_000)}}`],
  ])('%s is refused in words, never with a fault of ours', async (_, body) => {
    for (const path of ['/api/access/codes', '/api/access/session']) {
      const answer = await raw('POST', path, body, {}, '')
      expect(answer.status, path).toBeGreaterThanOrEqual(400)
      expect(answer.status, path).toBeLessThan(500)
      expect(answer.body?.detail, path).toMatch(/\S/)
    }
  })

  it('very many names in one object are refused before it is parsed', async () => {
    const names = Array.from({ length: 6_000 }, (_, i) => `"n${i}":0`).join()
    const answer = await raw('POST', '/api/access/codes', `{${names}}`, {}, '')
    expect(answer).toMatchObject({
      status: 400,
      body: { code: 'body-malformed', detail: expect.stringMatching(/too many names/) },
    })
  })

  it('compression that is broken, unknown or a bomb is refused', async () => {
    const path = '/api/access/codes'
    const broken = await raw('POST', path, 'not packed', { 'Content-Encoding': 'gzip' }, '')
    expect(broken).toMatchObject({ status: 400, body: { code: 'body-malformed' } })
    const unknown = await raw('POST', path, '{}', { 'Content-Encoding': 'lzma' }, '')
    expect(unknown.status).toBeLessThan(500)
    const bomb = gzipSync(`{"email":"${'a'.repeat(20_000_000)}"}`)
    expect((await raw('POST', path, new Uint8Array(bomb), { 'Content-Encoding': 'gzip' }, '')).status).toBe(
      413,
    )
  })

  it('a long list is refused by its length, in the time of a short one', async () => {
    const groups = Array.from({ length: 60_000 }, () => 'x')
    const from = performance.now()
    const answer = await raw(
      'PUT',
      `${at()}/topics/order`,
      JSON.stringify({ topics: groups.slice(0, 30_000) }),
    )
    const many = await raw(
      'PUT',
      `${at()}/limits`,
      JSON.stringify({ changes: groups.map((group) => ({ group, seats: 3 })) }),
    )
    expect([answer.status, many.status]).toEqual([422, 400])
    expect(answer.body?.errors).toHaveLength(1)
    // Far below what looking at each would take; generous, for machines that are shared.
    expect(performance.now() - from).toBeLessThan(5_000)
  })

  it('many faults are told as the first hundred', async () => {
    const topics = Array.from({ length: 200 }, () => ({ title: '' }))
    const answer = await raw('POST', `${at()}/topics/several`, JSON.stringify({ topics }))
    expect(answer.status).toBe(422)
    expect(answer.body?.errors).toHaveLength(100)
  })

  it('a body that is larger than its route takes is refused with how much fits', async () => {
    const answer = await raw('PATCH', at(), JSON.stringify({ instructions: 'x'.repeat(300_000) }))
    expect(answer).toMatchObject({
      status: 413,
      body: { code: 'body-too-large', detail: expect.stringContaining('256 KiB') },
    })
  })
})

it('who may not call is told so before a body is read', async () => {
  const huge = 'x'.repeat(3_000_000)
  const stranger = await raw('PATCH', at(), huge, {}, '')
  expect(stranger).toMatchObject({ status: 401, body: { code: 'not-signed-in' } })
  const student = await raw('PATCH', at(), huge, {}, harness.as(studentEmail('', 0)).cookie)
  expect(student).toMatchObject({ status: 403, body: { code: 'not-allowed' } })
})
