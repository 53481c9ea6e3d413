import { expect, it } from 'vitest'
import { CODES_PER_QUARTER, createAsks } from './asks.ts'

const at = (minute: number) => new Date(Date.UTC(2026, 4, 6, 8, minute)).toISOString()

it('an address is told when the next mail can come once it asked too often, whoever it belongs to', () => {
  const asks = createAsks()
  for (let i = 0; i < CODES_PER_QUARTER; i++) expect(asks.note('a@x.example', at(i))).toBeNull()
  expect(asks.note('a@x.example', at(6))).toBe(at(15))
  expect(asks.note('b@x.example', at(6))).toBeNull()
  // The first ask is a quarter of an hour ago: one more is free.
  expect(asks.note('a@x.example', at(16))).toBeNull()
  expect(asks.note('a@x.example', at(16))).toBeNull()
  expect(asks.note('a@x.example', at(16))).toBe(at(17))
})
