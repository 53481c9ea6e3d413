import { describe, expect, it } from 'vitest'
import { type Instant, MINUTE, shift } from '../../core/instant.ts'
import { createAsks } from './asks.ts'

const NOON = '2026-05-04T12:00:00.000Z'
const EMAIL = 'ines@example.org'
const at = (minutes: number): Instant => shift(NOON, minutes * MINUTE)
const browser = (name: string, network = '192.0.2.1', fresh = false) => ({ browser: name, network, fresh })

/** Asks so often, a minute apart; gives what the last was told. */
function asking(asks: ReturnType<typeof createAsks>, times: number, who = (_n: number) => browser('one')) {
  let told: Instant | null = null
  for (let n = 0; n < times; n++) told = asks.note(EMAIL, who(n), false, NOON)
  return told
}

describe('mails to sign in', () => {
  it('are five to one address for one browser; the next goes once the first is a quarter of an hour old', () => {
    const asks = createAsks()
    for (let n = 0; n < 5; n++) expect(asks.note(EMAIL, browser('one'), false, at(n))).toBeNull()
    expect(asks.note(EMAIL, browser('one'), false, at(5))).toBe(at(15))
    expect(asks.note(EMAIL, browser('one'), false, shift(at(15), -1))).toBe(at(15))
    expect(asks.note(EMAIL, browser('one'), false, at(15))).toBeNull()
    expect(asks.note(EMAIL, browser('one'), false, at(15))).toBe(at(16))
  })

  it('are counted by address', () => {
    const asks = createAsks()
    expect(asking(asks, 6)).not.toBeNull()
    expect(asks.note('tom@example.org', browser('one'), false, NOON)).toBeNull()
  })

  it('are five for whoever keeps no cookie, by network, and do not count for one that keeps it', () => {
    const asks = createAsks()
    expect(asking(asks, 5, (n) => browser(`new ${n}`, '192.0.2.1', true))).toBeNull()
    expect(asks.note(EMAIL, browser('new 5', '192.0.2.1', true), false, NOON)).toBe(at(15))
    expect(asks.note(EMAIL, browser('kept'), false, NOON)).toBeNull()
    expect(asks.note(EMAIL, browser('new 6', '192.0.2.9', true), false, NOON)).toBeNull()
  })

  it('are ten from one network, whatever browsers there are in it', () => {
    const asks = createAsks()
    expect(asking(asks, 10, (n) => browser(`${n}`))).toBeNull()
    expect(asks.note(EMAIL, browser('another'), false, NOON)).toBe(at(15))
    expect(asks.note(EMAIL, browser('another', '192.0.2.9'), false, NOON)).toBeNull()
  })

  it('are thirty from everywhere', () => {
    const asks = createAsks()
    expect(asking(asks, 30, (n) => browser(`${n}`, `192.0.2.${n}`))).toBeNull()
    expect(asks.note(EMAIL, browser('another', '198.51.100.1'), false, NOON)).toBe(at(15))
  })

  it('count for a browser that was let in before on its own account alone, and not against others', () => {
    const asks = createAsks()
    asking(asks, 10, (n) => browser(`${n}`))
    for (let n = 0; n < 5; n++) expect(asks.note(EMAIL, browser('own'), true, NOON)).toBeNull()
    expect(asks.note(EMAIL, browser('own'), true, NOON)).toBe(at(15))
    const others = createAsks()
    for (let n = 0; n < 5; n++) others.note(EMAIL, browser(`own ${n}`), true, NOON)
    expect(asking(others, 10, (n) => browser(`${n}`))).toBeNull()
  })

  it('that were not sent are not counted', () => {
    const asks = createAsks()
    asking(asks, 5)
    for (let n = 0; n < 40; n++) asks.note(EMAIL, browser('one'), false, at(10))
    expect(asks.note(EMAIL, browser('one'), false, at(15))).toBeNull()
  })
})
