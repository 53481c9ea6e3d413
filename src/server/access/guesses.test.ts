import { describe, expect, it } from 'vitest'
import { HOUR, type Instant, MINUTE, SECOND, shift } from '../../core/instant.ts'
import { createGuesses } from './guesses.ts'

const EMAIL = 'ada@school.example'
const NOON = '2026-05-04T12:00:00.000Z'
const at = (ms: number): Instant => shift(NOON, ms)
const browser = (n: number, network = '192.0.2.1') => ({ browser: `browser ${n}`, network })

/** Guesses after so many wrong codes, each by a browser of its own. */
function wrongCodes(wrong: number, network = (_n: number) => '192.0.2.1') {
  const guesses = createGuesses()
  for (let n = 0; n < wrong; n++) guesses.note(browser(n, network(n)), NOON)
  return guesses
}

describe('wrong codes from one network', () => {
  it('cost nothing up to twenty, then a pause that doubles with each, up to about a minute', () => {
    const pauses = [19, 20, 21, 22, 23, 26, 27, 28, 40].map((wrong) =>
      wrongCodes(wrong).waitsUntil(browser(0), EMAIL, NOON),
    )
    const seconds = [null, null, 1, 2, 4, 32, 64, 64, 64]
    expect(pauses).toEqual(seconds.map((pause) => (pause === null ? null : at(pause * SECOND))))
  })

  it('pause from the newest of them on, and until the very moment in which it ends', () => {
    const guesses = wrongCodes(21)
    guesses.note(browser(0), at(MINUTE))
    const ends = at(MINUTE + 2 * SECOND)
    expect(guesses.waitsUntil(browser(0), EMAIL, at(MINUTE))).toBe(ends)
    expect(guesses.waitsUntil(browser(0), EMAIL, shift(ends, -1))).toBe(ends)
    expect(guesses.waitsUntil(browser(0), EMAIL, ends)).toBeNull()
  })

  it('keep nobody out who asked for a mail and has typed none, nor another network', () => {
    const guesses = wrongCodes(40)
    guesses.hopes(browser(40), EMAIL, NOON)
    expect(guesses.waitsUntil(browser(40), EMAIL, NOON)).toBeNull()
    expect(guesses.waitsUntil(browser(0, '192.0.2.9'), EMAIL, NOON)).toBeNull()
    expect(guesses.waitsUntil({ browser: null, network: '192.0.2.9' }, EMAIL, NOON)).toBeNull()
  })

  it('count for every fresh browser that did not ask for a mail to this address, or long ago', () => {
    const guesses = wrongCodes(40)
    expect(guesses.waitsUntil(browser(40), EMAIL, NOON)).toBe(at(64 * SECOND))
    guesses.hopes(browser(40), 'somebody@else.example', NOON)
    expect(guesses.waitsUntil(browser(40), EMAIL, NOON)).toBe(at(64 * SECOND))
    guesses.hopes(browser(41, '192.0.2.9'), EMAIL, NOON)
    expect(guesses.waitsUntil(browser(41), EMAIL, NOON)).toBe(at(64 * SECOND))
    guesses.hopes(browser(40), EMAIL, NOON)
    guesses.note(browser(0), at(15 * MINUTE))
    expect(guesses.waitsUntil(browser(40), EMAIL, at(15 * MINUTE - 1))).toBeNull()
    expect(guesses.waitsUntil(browser(40), EMAIL, at(15 * MINUTE))).toBe(at(15 * MINUTE + 64 * SECOND))
  })

  it('count for whoever has no cookie, as nothing tells them apart there', () => {
    expect(wrongCodes(21).waitsUntil({ browser: null, network: '192.0.2.1' }, EMAIL, NOON)).toBe(at(SECOND))
  })

  it('are forgotten within the hour', () => {
    const guesses = wrongCodes(40)
    for (const n of [0, 1]) guesses.note(browser(n), at(HOUR - 1))
    expect(guesses.waitsUntil(browser(0), EMAIL, at(HOUR - 1))).toBe(at(HOUR - 1 + 64 * SECOND))
    expect(guesses.waitsUntil(browser(0), EMAIL, at(HOUR))).toBeNull()
  })
})

describe('wrong codes from everywhere', () => {
  const spread = (n: number) => `192.0.2.${n % 200}`

  it('cost a pause past three hundred, for those who typed one', () => {
    expect(wrongCodes(300, spread).waitsUntil(browser(0, spread(0)), EMAIL, NOON)).toBeNull()
    expect(wrongCodes(301, spread).waitsUntil(browser(0, spread(0)), EMAIL, NOON)).toBe(at(SECOND))
    const guesses = wrongCodes(301, spread)
    guesses.hopes(browser(999, spread(0)), EMAIL, NOON)
    expect(guesses.waitsUntil(browser(999, spread(0)), EMAIL, NOON)).toBeNull()
    expect(guesses.waitsUntil(browser(998, spread(0)), EMAIL, NOON)).toBe(at(SECOND))
  })

  it('let the longer of two pauses count', () => {
    const guesses = wrongCodes(303, (n) => (n < 22 ? '192.0.2.250' : spread(n)))
    expect(guesses.waitsUntil(browser(0, '192.0.2.250'), EMAIL, NOON)).toBe(at(4 * SECOND))
    const other = wrongCodes(301, (n) => (n < 24 ? '192.0.2.250' : spread(n)))
    expect(other.waitsUntil(browser(0, '192.0.2.250'), EMAIL, NOON)).toBe(at(8 * SECOND))
  })

  it('leave mails with a link alone: past sixty from one network for it, past nine hundred for all', () => {
    expect(wrongCodes(59).linkOnly(browser(1), NOON)).toBe(false)
    expect(wrongCodes(60).linkOnly(browser(999), NOON)).toBe(true)
    expect(wrongCodes(60).linkOnly(browser(1, '192.0.2.9'), NOON)).toBe(false)
    expect(wrongCodes(899, spread).linkOnly(browser(1, '198.51.100.1'), NOON)).toBe(false)
    expect(wrongCodes(900, spread).linkOnly(browser(1, '198.51.100.1'), NOON)).toBe(true)
    expect(wrongCodes(60).linkOnly(browser(1), at(HOUR))).toBe(false)
  })
})
