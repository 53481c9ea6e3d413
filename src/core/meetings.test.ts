import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isWeek, NEVER, nextAt, occurrences, suitingTimes, WEEK_HOURS } from './meetings.ts'
import { localTimeOf } from './zone.ts'

const ZONE = 'Europe/Copenhagen'

describe('when a meeting takes place', () => {
  it('is the same hour on the wall each week, over a clock change', () => {
    const times = occurrences(
      { startsAt: '2026-10-14T12:00:00.000Z', minutes: 90, weeks: 3, skipped: [] },
      ZONE,
    )
    expect(times).toEqual([
      { day: '2026-10-14', startsAt: '2026-10-14T12:00:00.000Z', endsAt: '2026-10-14T13:30:00.000Z' },
      { day: '2026-10-21', startsAt: '2026-10-21T12:00:00.000Z', endsAt: '2026-10-21T13:30:00.000Z' },
      { day: '2026-10-28', startsAt: '2026-10-28T13:00:00.000Z', endsAt: '2026-10-28T14:30:00.000Z' },
    ])
  })
  it('is an hour later where clocks skip that hour, and the first where they show it twice', () => {
    const at = (startsAt: string) => occurrences({ startsAt, minutes: 60, weeks: 2, skipped: [] }, ZONE)[1]
    // 02:30 does not occur on 28 March 2027, and occurs twice on 25 October 2026.
    expect(at('2027-03-21T01:30:00.000Z')?.startsAt).toBe('2027-03-28T01:30:00.000Z')
    expect(localTimeOf('2027-03-28T01:30:00.000Z', ZONE)).toBe('2027-03-28T03:30')
    expect(at('2026-10-18T00:30:00.000Z')?.startsAt).toBe('2026-10-25T00:30:00.000Z')
  })
  it('leaves out the days on which it does not', () => {
    const days = occurrences(
      { startsAt: '2026-05-04T08:00:00.000Z', minutes: 60, weeks: 4, skipped: ['2026-05-11', '2026-05-12'] },
      ZONE,
    ).map(({ day }) => day)
    expect(days).toEqual(['2026-05-04', '2026-05-18', '2026-05-25'])
  })
})

describe('the times that suit', () => {
  const week = (...hours: number[]) =>
    Array.from({ length: WEEK_HOURS }, (_, hour) => (hours.includes(hour) ? '1' : '0')).join('')

  it('are those at which most can, the beginning of a stretch standing for it', () => {
    const weeks = new Map([
      ['ada', week(9, 10, 11, 33, 34)],
      ['bao', week(10, 11, 33, 34)],
      ['cy', week(33, 34, 50)],
    ])
    expect(suitingTimes(weeks, 1)).toEqual([
      { hour: 33, can: ['ada', 'bao', 'cy'], cannot: [] },
      { hour: 10, can: ['ada', 'bao'], cannot: ['cy'] },
    ])
    expect(suitingTimes(weeks, 2).map(({ hour }) => hour)).toEqual([33, 10])
    expect(suitingTimes(weeks, 3)).toEqual([])
  })
  it('never run over midnight, and need two who can', () => {
    const late = new Map([
      ['ada', week(23, 24)],
      ['bao', week(23, 24)],
      ['cy', week(40)],
    ])
    expect(suitingTimes(late, 2)).toEqual([])
    expect(suitingTimes(late, 1).map(({ hour }) => hour)).toEqual([23])
  })
  it('are the best there are, against trying every hour', () => {
    const hours = fc
      .array(fc.constantFrom('0', '1', '1'), { minLength: WEEK_HOURS, maxLength: WEEK_HOURS })
      .map((all) => all.join(''))
    fc.assert(
      fc.property(
        fc.array(hours, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 4 }),
        (all, length) => {
          const found = suitingTimes(new Map(all.map((one, i) => [i, one])), length, 400)
          const can = (hour: number) =>
            all.filter((one) => one.slice(hour, hour + length) === '1'.repeat(length)).length
          let best = 0
          for (let day = 0; day < 7; day++)
            for (let hour = 0; hour + length <= 24; hour++) best = Math.max(best, can(24 * day + hour))
          expect(found[0]?.can.length ?? 0).toBe(best >= 2 ? best : 0)
          for (const one of found) {
            expect(one.can).toHaveLength(can(one.hour))
            expect(one.can.length + one.cannot.length).toBe(all.length)
          }
          const counts = found.map((one) => one.can.length)
          expect(counts).toEqual(counts.toSorted((a, b) => b - a))
        },
      ),
    )
  })
  it('are kept as one sign for each hour', () => {
    expect(isWeek(NEVER)).toBe(true)
    expect(isWeek('1'.repeat(WEEK_HOURS - 1))).toBe(false)
    expect(isWeek(NEVER.replace('0', '2'))).toBe(false)
  })
  it('have a next day, today only while the hour is still ahead', () => {
    // A Wednesday, 10:00 in Copenhagen.
    const now = '2026-05-06T08:00:00.000Z'
    expect(nextAt(2 * 24 + 11, now, ZONE)).toBe('2026-05-06T11:00')
    expect(nextAt(2 * 24 + 10, now, ZONE)).toBe('2026-05-13T10:00')
    expect(nextAt(9, now, ZONE)).toBe('2026-05-11T09:00')
  })
})
