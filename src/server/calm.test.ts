import pino from 'pino'
import { expect, it } from 'vitest'
import { createCalm } from './calm.ts'

function quiet() {
  const lines: { msg: string; moreSince?: number; err?: { code?: string } }[] = []
  let now = 0
  const log = pino({ level: 'error' }, { write: (line: string) => void lines.push(JSON.parse(line)) })
  const later = (ms: number) => {
    now += ms
  }
  return { lines, calm: createCalm(log, () => now), later }
}
const full = (n: number) => Object.assign(new Error(`row ${n}`), { code: 'SQLITE_FULL' })

it('tells a fault of one kind once a minute, with how many there were since', () => {
  const { lines, calm, later } = quiet()
  for (let n = 0; n < 5_000; n++) calm(full(n), 'not written')
  calm(new Error('something else'), 'not written')
  expect(lines).toHaveLength(2)
  later(60_000)
  calm(full(1), 'not written')
  expect(lines.at(-1)).toMatchObject({ moreSince: 4_999, err: { code: 'SQLITE_FULL' } })
})

it('tells very many kinds as one', () => {
  const { lines, calm } = quiet()
  for (let n = 0; n < 5_000; n++) calm(new Error(`fault ${n}`), 'broke')
  expect(lines.length).toBeLessThanOrEqual(201)
})
