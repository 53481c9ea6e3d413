import type { IncomingMessage, ServerResponse } from 'node:http'
import { expect, it } from 'vitest'
import { createArrivals } from './arrivals.ts'

const round = () => new Promise<void>((resolve) => setImmediate(resolve))
const asked = (n: number) => [{ n }, { destroyed: false }] as unknown as [IncomingMessage, ServerResponse]

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
  const all = Array.from({ length: 10 }, (_, n) => asked(n))
  for (const one of all) listen(...(one as Parameters<typeof listen>))
  Object.assign(all[2]![1], { destroyed: true })
  await round()
  expect(begun.length).toBeGreaterThan(0)
  expect(begun.length).toBeLessThan(9)
  listen(...(asked(10) as Parameters<typeof listen>))
  for (let i = 0; i < 8; i++) await round()
  expect(begun).toEqual([0, 1, 3, 4, 5, 6, 7, 8, 9, 10])
})
