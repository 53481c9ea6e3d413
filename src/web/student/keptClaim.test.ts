import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { beWhose, endTurn } from '../data/whose.ts'
import { type KeptClaim, keepClaim, keptClaim } from './keptClaim.ts'

const claim: KeptClaim = { key: 'key-of-claim', ask: { kind: 'take', to: 'a' }, at: 1_000 }
beforeEach(() => {
  const kept = new Map<string, string>()
  vi.stubGlobal('sessionStorage', {
    getItem: (name: string) => kept.get(name) ?? null,
    setItem: (name: string, value: string) => kept.set(name, value),
    removeItem: (name: string) => kept.delete(name),
  })
})
afterEach(() => {
  vi.unstubAllGlobals()
})

it('is there for its own sheet until it is answered', () => {
  keepClaim('s', claim)
  expect([keptClaim('s', 2_000), keptClaim('other', 2_000)]).toEqual([claim, null])
  keepClaim('s', null)
  expect(keptClaim('s', 2_000)).toBeNull()
})

it('is its student’s: whoever signs in next in this tab does not go on asking for it', () => {
  beWhose('ada@school.example')
  keepClaim('s', claim)
  beWhose('bo@school.example')
  expect(keptClaim('s', 2_000)).toBeNull()
  endTurn()
})

it('is forgotten after ten minutes: by then it is not what its student wants', () => {
  keepClaim('s', claim)
  expect(keptClaim('s', 1_000 + 600_000)).toBeNull()
})

it('without storage, or with something else in it, is simply not there', () => {
  sessionStorage.setItem('haplon.claim..s', '{broken')
  expect(keptClaim('s', 2_000)).toBeNull()
  vi.unstubAllGlobals()
  keepClaim('s', claim)
  expect(keptClaim('s', 2_000)).toBeNull()
})
