import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dayAfter, dayOrderIn, readDay, readTime } from './when.ts'

describe('a day', () => {
  it.each([
    '2026-05-13',
    '2026/5/13',
    '2026.05.13',
    '13.5.2026',
    '13/05/2026',
    '05/13/2026',
    '13-05-26',
    '13 May 2026',
    '13. May 2026',
    'Wed 13 May 2026',
    'May 13, 2026',
    'Wednesday, May 13th 2026',
    '2026-05-13T14:30:00',
    '2026-05-13 14:30',
    '13/05/2026 2:30 pm',
  ])('is read from %j', (text) => {
    expect(readDay(text, null)).toBe('2026-05-13')
  })

  it.each([
    '',
    '2026-02-30',
    '31.4.2026',
    '13 Foo 2026',
    '13 May',
    '13/13/2026',
    '0/5/2026',
    '2026',
    '14:30',
    'x 2026-05-13',
  ])('is not read from %j', (text) => {
    expect(readDay(text, 'day-first')).toBeNull()
  })

  it('is read by the order of its column, and by none where that is doubtful', () => {
    expect(readDay('03/04/2026', 'day-first')).toBe('2026-04-03')
    expect(readDay('03/04/2026', 'month-first')).toBe('2026-03-04')
    expect(readDay('03/04/2026', null)).toBeNull()
    expect(readDay('04/04/2026', null)).toBe('2026-04-04')
    // A number that is no month says which is the day.
    expect([readDay('13/12/2026', null), readDay('12/13/2026', null)]).toEqual(['2026-12-13', '2026-12-13'])
    expect([readDay('13/12/2026', 'month-first'), readDay('12/13/2026', 'day-first')]).toEqual([
      '2026-12-13',
      '2026-12-13',
    ])
    // A dot is the order of the day first.
    expect(readDay('3.4.2026', 'month-first')).toBe('2026-04-03')
  })
})

it('the order of days in a column is settled by one past the twelfth', () => {
  expect(dayOrderIn(['03/04/2026', '', '05/13/2026'])).toEqual({ order: 'month-first', doubtful: false })
  expect(dayOrderIn(['03/04/2026', '13/05/2026 10:00'])).toEqual({ order: 'day-first', doubtful: false })
  expect(dayOrderIn(['03/04/2026', '05/06/2026'])).toEqual({ order: null, doubtful: true })
  expect(dayOrderIn(['04/04/2026'])).toEqual({ order: null, doubtful: false })
  expect(dayOrderIn(['2026-04-03', '3.4.2026', '3 May 2026'])).toEqual({ order: null, doubtful: false })
  expect(dayOrderIn(['13/05/2026', '05/13/2026', '03/04/2026'])).toEqual({ order: null, doubtful: true })
})

it('a day that was written in some order is read by it (property)', () => {
  const day = fc.date({ min: new Date('2001-01-01'), max: new Date('2099-12-31'), noInvalidDate: true })
  fc.assert(
    fc.property(fc.array(day, { minLength: 1 }), fc.boolean(), (days, dayFirst) => {
      const isos = days.map((one) => one.toISOString().slice(0, 10))
      const written = isos.map((iso) => {
        const [y, m, d] = iso.split('-')
        return dayFirst ? `${d}/${m}/${y}` : `${m}/${d}/${y}`
      })
      const { order, doubtful } = dayOrderIn(written)
      const read = written.map((text) => readDay(text, order))
      // Never another day than was meant: where it cannot be told, none.
      for (const [i, iso] of isos.entries()) expect([iso, null]).toContain(read[i])
      if (order !== null) expect(order).toBe(dayFirst ? 'day-first' : 'month-first')
      if (!doubtful) expect(read).toEqual(isos)
    }),
  )
})

it.each([
  ['14:30', '14:30'],
  ['9.15', '09:15'],
  ['14h30', '14:30'],
  ['13:30:00', '13:30'],
  ['1:30 pm', '13:30'],
  ['1:30pm', '13:30'],
  ['1 p.m.', '13:00'],
  ['12 am', '00:00'],
  ['12:15 PM', '12:15'],
  ['2026-05-13 14:30', '14:30'],
  ['2026-05-13T14:30:00', '14:30'],
])('a time of day is read from %j', (text, time) => {
  expect(readTime(text)).toBe(time)
})

it.each(['', '25:00', '14:60', '13 pm', '0 am', '14', 'noon', '13.5.2026', '2026-05-13', '1:2'])(
  'none is read from %j',
  (text) => {
    expect(readTime(text)).toBeNull()
  },
)

it('the day after is told over months and leap years', () => {
  expect(dayAfter('2028-02-28')).toBe('2028-02-29')
  expect(dayAfter('2026-12-31')).toBe('2027-01-01')
})
