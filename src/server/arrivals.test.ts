import type { IncomingMessage, ServerResponse } from 'node:http'
import { expect, it } from 'vitest'
import { createArrivals } from './arrivals.ts'

const round = () => new Promise<void>((resolve) => setImmediate(resolve))
const asked = (n: number, socket = {}) =>
  [{ n, socket }, { destroyed: false }] as unknown as [IncomingMessage, ServerResponse]

it('does what waits once nobody new comes, and not without end later', async () => {
  const arrivals = createArrivals()
  let done = false
  arrivals.whenQuiet(() => {
    done = true
  })
  for (let i = 0; i < 5; i++) {
    arrivals.arrived()
    await round()
    expect(done).toBe(false)
  }
  for (let i = 0; i < 2; i++) await round()
  expect(done).toBe(true)

  done = false
  arrivals.whenQuiet(() => {
    done = true
  })
  let rounds = 0
  for (; !done && rounds < 1_000; rounds++) {
    arrivals.arrived()
    await round()
  }
  expect(rounds).toBeLessThan(100)
})

it('begins requests in the order in which they came, for a turn at a time, and none of who has gone', async () => {
  let now = 0
  const arrivals = createArrivals(() => now)
  const begun: number[] = []
  const listen = arrivals.inTurns((req) => {
    now += 1
    begun.push((req as unknown as { n: number }).n)
  })
  const socket = {}
  const all = Array.from({ length: 10 }, (_, n) => asked(n, socket))
  for (const one of all) listen(...(one as Parameters<typeof listen>))
  Object.assign(all[2]![1], { destroyed: true })
  await round()
  expect(begun.length).toBeGreaterThan(0)
  expect(begun.length).toBeLessThan(9)
  listen(...(asked(10, socket) as Parameters<typeof listen>))
  for (let i = 0; i < 8; i++) await round()
  expect(begun).toEqual([0, 1, 3, 4, 5, 6, 7, 8, 9, 10])
})

it('begins what new connections ask first before the others, for half of a turn, so that both go on', async () => {
  let now = 0
  const arrivals = createArrivals(() => now)
  const begun: number[] = []
  const listen = arrivals.inTurns((req) => {
    now += 1
    begun.push((req as unknown as { n: number }).n)
  })
  const ask = (n: number, socket?: object) => listen(...(asked(n, socket) as Parameters<typeof listen>))
  const pressing = Array.from({ length: 8 }, () => ({}))
  for (const [n, socket] of pressing.entries()) ask(n, socket)
  for (let i = 0; i < 4; i++) await round()
  begun.length = 0
  // Eight who were here before press again, and six come anew.
  for (const [n, socket] of pressing.entries()) ask(n, socket)
  for (let n = 100; n < 106; n++) ask(n)
  await round()
  await round()
  // Four in a turn: two and two, for as long as there are both.
  expect(begun.slice(0, 4)).toEqual([100, 101, 0, 1])
  for (let i = 0; i < 8; i++) await round()
  expect(begun).toEqual([100, 101, 0, 1, 102, 103, 2, 3, 104, 105, 4, 5, 6, 7])
})
