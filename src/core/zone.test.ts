import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DAY, HOUR, instantFromMs, MINUTE } from './instant.ts'
import {
  changesClocks,
  dayStarts,
  isZone,
  localTimeOf,
  movedAlong,
  readLocalTime,
  sayDay,
  sayInstant,
  saySlot,
  sayTime,
} from './zone.ts'

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

describe('an instant moved along with another', () => {
  const spring = { at: '2026-05-06T07:00:00.000Z', zone: ZONE }

  it('keeps its time on the wall across a clock change, either way', () => {
    // Wed 6 May 09:00 to Wed 21 October 09:00; a week later clocks have gone back.
    const autumn = { at: '2026-10-21T07:00:00.000Z', zone: ZONE }
    expect(movedAlong('2026-05-13T15:00:30.000Z', spring, autumn)).toBe('2026-10-28T16:00:30.000Z')
    const winter = { at: '2026-01-07T08:00:00.000Z', zone: ZONE }
    expect(movedAlong('2026-05-13T15:00:00.000Z', spring, winter)).toBe('2026-01-14T16:00:00.000Z')
  })

  it('keeps its time on the wall in another zone', () => {
    const there = { at: '2026-09-07T03:15:00.000Z', zone: 'Asia/Kathmandu' }
    expect(localTimeOf(movedAlong('2026-05-13T15:00:00.000Z', spring, there), there.zone)).toBe(
      '2026-09-14T17:00',
    )
  })

  it('is an hour later where the clocks skip it, and the first of two', () => {
    const at = (hour: string) => ({ at: `2026-05-10T${hour}:30:00.000Z`, zone: ZONE })
    const forward = { at: '2026-03-28T01:30:00.000Z', zone: ZONE }
    // Sat 28 March 02:30, a day later: Sunday 02:30 does not occur.
    expect(movedAlong('2026-05-11T00:30:00.000Z', at('00'), forward)).toBe('2026-03-29T01:30:00.000Z')
    const back = { at: '2026-10-24T00:30:00.000Z', zone: ZONE }
    expect(movedAlong('2026-05-11T00:30:00.000Z', at('00'), back)).toBe('2026-10-25T00:30:00.000Z')
  })

  it('is where it was when nothing moves, and never comes before what it came after by a day or more', () => {
    const instants = fc.integer({ min: Date.UTC(2024, 0, 1), max: Date.UTC(2030, 0, 1) }).map(instantFromMs)
    const zones = fc.constantFrom(ZONE, 'America/St_Johns', 'Asia/Kathmandu', 'Australia/Lord_Howe', 'UTC')
    fc.assert(
      fc.property(
        instants,
        instants,
        fc.integer({ min: 0, max: 200 }),
        zones,
        zones,
        (at, to, days, one, two) => {
          const instant = instantFromMs(Date.parse(at) + days * DAY)
          const moved = movedAlong(instant, { at, zone: one }, { at: to, zone: two })
          expect(Math.abs(Date.parse(moved) - Date.parse(to) - days * DAY)).toBeLessThanOrEqual(3 * HOUR)
        },
      ),
    )
  })
})

it('knows IANA zones and no others', () => {
  expect(isZone('Asia/Kathmandu')).toBe(true)
  expect(isZone('Atlantis/Capital')).toBe(false)
  expect(isZone('')).toBe(false)
  for (const name of ['UTC', 'Etc/GMT+5', 'America/Argentina/Buenos_Aires', 'America/Port-au-Prince'])
    expect(isZone(name), name).toBe(true)
  // Words that every object answers to are no zones, nor are offsets.
  for (const name of [...Object.getOwnPropertyNames(Object.prototype), '+05:30', 'x'.repeat(5_000)])
    expect(isZone(name), name).toBe(false)
})

describe('an instant in words', () => {
  it('is a day or a time alone where that is asked for', () => {
    expect(sayDay('2026-05-13T23:30:00.000Z', ZONE)).toBe('14 May')
    expect(sayTime('2026-05-13T15:05:00.000Z', ZONE)).toBe('17:05')
  })

  it('says a slot with its end, and the end’s day only where it is another', () => {
    const at = '2026-05-13T15:00:00.000Z'
    expect(saySlot(at, null, ZONE)).toBe('Wed 13 May, 17:00')
    expect(saySlot(at, '2026-05-13T16:30:00.000Z', ZONE)).toBe('Wed 13 May, 17:00 to 18:30')
    expect(saySlot(at, '2026-05-13T23:00:00.000Z', ZONE)).toBe('Wed 13 May, 17:00 to Thu 14 May, 01:00')
  })
})

it('knows when clocks change within six hours, before or after', () => {
  // Clocks in Copenhagen went forward at 01:00 UTC on 29 March 2026.
  expect(changesClocks('2026-03-28T20:00:00.000Z', ZONE)).toBe(true)
  expect(changesClocks('2026-03-29T06:00:00.000Z', ZONE)).toBe(true)
  expect(changesClocks('2026-03-28T12:00:00.000Z', ZONE)).toBe(false)
  expect(changesClocks('2026-03-29T12:00:00.000Z', ZONE)).toBe(false)
})

it.each([
  '2026-05-13T10:60',
  '2026-05-13T24:30',
  '2026-00-10T10:00',
  '2026-05-00T10:00',
  'x2026-05-13T10:00',
  '2026-05-13T10:00x',
])('%s is no time of a calendar or clock', (text) => {
  expect(readLocalTime(text, ZONE)).toEqual({ kind: 'malformed' })
})

it('starts no day after the end, and the first where the range begins', () => {
  expect(dayStarts('2026-05-12T22:00:00.000Z', '2026-05-12T22:00:00.000Z', ZONE)).toEqual([
    '2026-05-12T22:00:00.000Z',
  ])
  expect(dayStarts('2026-05-13T10:00:00.000Z', '2026-05-11T10:00:00.000Z', ZONE)).toEqual([])
  expect(dayStarts('2020-01-01T10:00:00.000Z', '2026-01-01T10:00:00.000Z', 'UTC')).toHaveLength(400)
})
