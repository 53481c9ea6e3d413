import { afterEach, expect, it, vi } from 'vitest'
import { run } from '../../contract/seats.ts'
import { addTopics } from '../../contract/topics.ts'
import { call, faultOf } from './call.ts'
import { beWhose, endTurn } from './whose.ts'

afterEach(() => vi.unstubAllGlobals())

const PLAIN = { sheet: 's' }
const change = () => call(addTopics, PLAIN, { topics: [{ title: 'Miso' }] })

/** What is said when a call has no answer. */
async function said(work: () => Promise<unknown>, onLine: boolean): Promise<string> {
  vi.stubGlobal('navigator', { onLine })
  vi.stubGlobal('fetch', () => Promise.reject(new TypeError('Failed to fetch')))
  return work().then(
    () => 'an answer',
    (error) => {
      const fault = faultOf(error)
      expect(fault.code).toBe('no-connection')
      return fault.message
    },
  )
}

it('a change whose answer is lost is not said to be undone, nor done', async () => {
  expect(await said(change, true)).toMatch(/^The server cannot be reached, so it is not known whether/)
})

it('a change that never left is said to have changed nothing', async () => {
  expect(await said(change, false)).toMatch(/Nothing was changed/)
})

it('reading has nothing to do with changes', async () => {
  expect(await said(() => call(run, PLAIN), true)).toBe(
    'The server cannot be reached. Check your connection and try again.',
  )
})

it('an answer that was meant for somebody who has signed out is nobody’s', async () => {
  vi.stubGlobal('navigator', { onLine: true })
  let answer = (_: Response) => {}
  vi.stubGlobal('fetch', () => new Promise<Response>((resolve) => (answer = resolve)))
  beWhose('ada@school.example')
  const asked = change()
  endTurn()
  answer(new Response('{"of":"Ada"}', { status: 200, headers: { 'Content-Type': 'application/json' } }))
  await expect(asked).rejects.toMatchObject({ code: 'not-signed-in' })
  // The same person, known anew, goes on.
  beWhose('bo@school.example')
  const own = change()
  expect(beWhose('bo@school.example')).toBe(false)
  answer(new Response('{"of":"Bo"}', { status: 200 }))
  expect(await own).toEqual({ of: 'Bo' })
  expect(beWhose('cy@school.example')).toBe(true)
  endTurn()
})
