import { afterEach, expect, it, vi } from 'vitest'
import { run } from '../../contract/seats.ts'
import { addTopics } from '../../contract/topics.ts'
import { call, faultOf } from './call.ts'

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
