import { afterEach, expect, it, vi } from 'vitest'
import { systemClock } from './clock.ts'

afterEach(() => vi.useRealTimers())

it('tells the present instant, forwards and backwards, however often it is asked', () => {
  vi.useFakeTimers()
  for (const instant of [
    '2026-05-04T08:00:00.000Z',
    '2026-05-04T08:00:00.001Z',
    '2026-05-04T07:59:59.999Z',
  ]) {
    vi.setSystemTime(instant)
    expect([systemClock(), systemClock()]).toEqual([instant, instant])
  }
})
