import { describe, expect, it } from 'vitest'
import type { RemarkView, Standing } from '../../contract/remarks.ts'
import { placedIn, rankOf } from './placed.ts'

const file = (code: string) => ({ code, name: code, size: 1, type: 'application/pdf', by: '', at: '' })
const handIn = { version: 2, files: [file('b'), file('a')] }
const remark = (code: string, ...stands: Standing[]): RemarkView => ({
  code,
  made: stands[0] ?? { version: 1, file: null, place: { kind: 'passage', start: 0, end: 1 } },
  fileName: null,
  stands,
  words: code,
  criterion: null,
  points: null,
  edition: 1,
  by: '',
  answers: [],
})
const passage = (start: number, version = 2): Standing => ({
  version,
  file: null,
  place: { kind: 'passage', start, end: start + 3 },
})
const spot = (of: string, page: number, version = 2): Standing => ({
  version,
  file: of,
  place: { kind: 'spot', page, x: 0.5, y: 0.5 },
})

describe('remarks on one version', () => {
  const all = [
    remark('on a', spot('a', 1)),
    remark('late', passage(40)),
    remark('on b, page 2', spot('b', 2)),
    remark('early', passage(4, 1), passage(9)),
    remark('on b, page 1', spot('b', 1)),
    remark('before', passage(3, 1)),
    remark('on a file that is gone', spot('c', 1)),
  ]
  const { placed, elsewhere } = placedIn(all, handIn)

  it('are numbered as they are read: what was written, then its files in their order', () => {
    expect(placed.map(({ n, remark: { code } }) => `${n} ${code}`)).toEqual([
      '1 early',
      '2 late',
      '3 on b, page 1',
      '4 on b, page 2',
      '5 on a',
    ])
    expect(placed[0]?.place).toEqual({ kind: 'passage', start: 9, end: 12 })
  })

  it('leave those out whose place is not in it', () => {
    expect(elsewhere.map(({ code }) => code)).toEqual(['before', 'on a file that is gone'])
  })

  it('take what is being written in at its place among them', () => {
    const rank = (making: Standing) => rankOf(making, placed, handIn)
    expect(rank(passage(0))).toBe(0)
    expect(rank(passage(20))).toBe(1)
    expect(rank(spot('b', 1))).toBe(3)
    expect(rank(spot('b', 3))).toBe(4)
    expect(rank(spot('a', 9))).toBe(5)
  })
})
