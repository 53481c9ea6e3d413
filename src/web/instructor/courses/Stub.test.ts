import { expect, it } from 'vitest'
import { figureNow } from './Stub.tsx'

const sheet = {
  short: 0,
  spare: 3,
  noGroup: 2,
  notRanked: null,
  opensAt: '2026-05-06T08:00:00.000Z',
  closesAt: '2026-05-16T08:00:00.000Z',
}
const at = (state: Parameters<typeof figureNow>[1], now: string, more = {}) =>
  figureNow({ ...sheet, ...more }, state, 40, now)

it('a sheet shows the figure that matters in its state', () => {
  expect(at('draft', sheet.opensAt)).toMatchObject({ figure: '+3', words: 'seats to spare' })
  expect(at('draft', sheet.opensAt, { spare: null })).toMatchObject({ figure: 'No limit' })
  expect(at('draft', sheet.opensAt, { short: 1 })).toMatchObject({ figure: '1', words: 'seat short' })
  expect(at('closed', '2026-05-17T08:00:00.000Z')).toMatchObject({ figure: '2', tone: 'text-ember' })
})

it('a sheet that has just opened is not scolded, and an archived one lacks nobody', () => {
  expect(at('open', '2026-05-06T08:01:00.000Z')).toMatchObject({ figure: '2', tone: '' })
  expect(at('open', '2026-05-08T08:01:00.000Z')).toMatchObject({ figure: '2', tone: 'text-ember' })
  expect(at('archived', '2026-06-08T08:01:00.000Z')).toEqual({ figure: '38', words: 'had a seat', tone: '' })
})
