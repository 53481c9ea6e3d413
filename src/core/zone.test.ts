import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { instantFromMs, MINUTE } from './instant.ts'
import { dayStarts, isZone, localTimeOf, readLocalTime, sayInstant } from './zone.ts'

const ZONE = 'Europe/Copenhagen'

describe('a wall-clock time', () => {
  it('is one instant on ordinary days', () => {
    expect(readLocalTime('2026-05-13T17:00', ZONE)).toEqual({
      kind: 'one',
      instant: '2026-05-13T15:00:00.000Z',
    })
    expect(readLocalTime('2026-01-13T17:00', ZONE)).toEqual({
      kind: 'one',
      instant: '2026-01-13T16:00:00.000Z',
    })
  })

  it('never occurs in the hour that clocks skip, and occurs twice in the hour they repeat', () => {
    expect(readLocalTime('2026-03-29T02:30', ZONE)).toEqual({ kind: 'never' })
    expect(readLocalTime('2026-10-25T02:30', ZONE)).toEqual({
      kind: 'twice',
      first: '2026-10-25T00:30:00.000Z',
      second: '2026-10-25T01:30:00.000Z',
    })
  })

  it.each(['2026-13-01T00:00', '2026-02-30T10:00', '2026-05-13T24:00', '2026-05-13', 'soon'])(
    '%s is malformed',
    (text) => {
      expect(readLocalTime(text, ZONE)).toEqual({ kind: 'malformed' })
    },
  )

  it('comes back from the instant it was read as, in every zone', () => {
    const zones = fc.constantFrom(
      'UTC',
      ZONE,
      'America/St_Johns',
      'Asia/Kathmandu',
      'Pacific/Chatham',
      'Australia/Lord_Howe',
    )
    const minutes = fc.integer({ min: 29_000_000, max: 30_500_000 })
    fc.assert(
      fc.property(minutes, zones, (minute, zone) => {
        const instant = instantFromMs(minute * MINUTE)
        const reading = readLocalTime(localTimeOf(instant, zone), zone)
        const found =
          reading.kind === 'twice'
            ? [reading.first, reading.second]
            : reading.kind === 'one'
              ? [reading.instant]
              : []
        expect(found).toContain(instant)
      }),
    )
  })
})

it('says an instant with its weekday in the zone', () => {
  expect(sayInstant('2026-05-13T15:00:00.000Z', ZONE)).toBe('Wed 13 May, 17:00')
  expect(sayInstant('2026-05-13T23:30:00.000Z', ZONE)).toBe('Thu 14 May, 01:30')
})

it('starts days at midnight of the zone, across a clock change', () => {
  expect(dayStarts('2026-03-28T12:00:00.000Z', '2026-03-30T12:00:00.000Z', ZONE)).toEqual([
    '2026-03-27T23:00:00.000Z',
    '2026-03-28T23:00:00.000Z',
    '2026-03-29T22:00:00.000Z',
  ])
})

it('knows IANA zones and no others', () => {
  expect(isZone('Asia/Kathmandu')).toBe(true)
  expect(isZone('Atlantis/Capital')).toBe(false)
  expect(isZone('')).toBe(false)
})
