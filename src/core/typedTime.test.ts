import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readTyped, sayTyped } from './typedTime.ts'

const NEAR = '2026-05-06'
const at = (text: string) => readTyped(text, NEAR, true)
const whole = (local: string) => ({ kind: 'whole', local })

describe('a typed day and time', () => {
  it.each([
    ['Wed 13 May 2026, 17:00', '2026-05-13T17:00'],
    ['13 may 2026 17:00', '2026-05-13T17:00'],
    ['13. May 2026 17.00', '2026-05-13T17:00'],
    ['2026-05-13T17:00', '2026-05-13T17:00'],
    ['2026-5-13 9:05', '2026-05-13T09:05'],
    ['13.5.2026, 17:00', '2026-05-13T17:00'],
    ['13/05/2026 at 17:00', '2026-05-13T17:00'],
    ['May 13, 2026 5:00 pm', '2026-05-13T17:00'],
    ['13 May 12:00 am', '2026-05-13T00:00'],
    // The weekday is passed over: whoever changes the day need not change it too.
    ['Mon 14 May 2026, 17:00', '2026-05-14T17:00'],
    // Without a year, the next such day.
    ['13 May, 17:00', '2026-05-13T17:00'],
    ['2 February 08:00', '2027-02-02T08:00'],
    ['29 February 2028, 08:00', '2028-02-29T08:00'],
  ])('%j is %s', (typed, local) => {
    expect(at(typed)).toEqual(whole(local))
  })

  it.each([
    '13',
    '13 May',
    '13 May 2026',
    '13 May 2026,',
    '13 May 2026, 17',
    '13 May 2026, 17:0',
    '17:00',
    'soon',
  ])('%j is unfinished, never empty', (typed) => expect(at(typed).kind).toBe('unfinished'))

  it.each([
    '31 February 2026, 10:00',
    '2026-13-01 10:00',
    '13 May 2026, 24:00',
    '13 May 2026, 9:60',
    '13 May 2026 13:00 pm',
  ])('%j is no day or no time, and says so', (typed) =>
    expect(at(typed)).toMatchObject({ kind: 'unfinished', why: expect.stringMatching(/\S/) }),
  )

  it('is empty only where nothing stands', () => {
    expect(at('  ')).toEqual({ kind: 'empty' })
  })

  it('is read back from what is shown of it, whatever it is', () => {
    const days = fc.date({
      min: new Date('1990-01-01T00:00Z'),
      max: new Date('2090-01-01T00:00Z'),
      noInvalidDate: true,
    })
    fc.assert(
      fc.property(days, fc.boolean(), (day, time) => {
        const local = day.toISOString().slice(0, time ? 16 : 10)
        expect(readTyped(sayTyped(local), NEAR, time)).toEqual(whole(local))
      }),
    )
  })

  it('never throws, and is never taken for empty where something stands', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        const { kind } = at(text)
        expect(kind === 'empty').toBe(text.trim() === '')
      }),
    )
  })
})

describe('a typed day', () => {
  it('takes no time, and says what it does not understand', () => {
    expect(readTyped('13 May 2026', NEAR, false)).toEqual(whole('2026-05-13'))
    expect(readTyped('13 May 2026, 17:00', NEAR, false)).toMatchObject({ kind: 'unfinished' })
  })
})
