import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Ajv2020 from 'ajv/dist/2020.js'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { checkWishes, lotOrder, uncheckedIn } from '../../scripts/lib/checkWishes.mjs'
import { workOf } from '../../src/core/plan/work.ts'
import { recordOf, type WishRecord } from '../../src/core/wishes/record.ts'
import { brokenBy, compareCosts } from '../../src/core/wishes/rules.ts'
import { lotOrder as ourOrder, seatByWishes } from '../../src/core/wishes/seat.ts'
import type { WishInput } from '../../src/core/wishes/types.ts'
import { seatWithin } from '../../src/core/wishes/within.ts'
import { smallClass, withRules } from './classes.ts'

const AIMS = ['most-first', 'nobody-far-down', 'least-total', 'in-turn'] as const
const root = join(import.meta.dirname, '../..')
const valid = new Ajv2020().compile(
  JSON.parse(readFileSync(join(root, 'docs/schemas/haplon-wishes-1.json'), 'utf8')),
)
const recorded = (input: WishInput): WishRecord => recordOf(input, seatByWishes(input))

describe('the record of a seating', () => {
  it.each(AIMS)('%s: is as its schema says, and a reader of another hand finds nothing wrong', (aim) => {
    fc.assert(
      fc.property(smallClass, (drawn) => {
        const record = recorded({ ...drawn, aim })
        const through = JSON.parse(JSON.stringify(record))
        expect(valid(through), JSON.stringify(valid.errors)).toBe(true)
        expect(checkWishes(through)).toEqual([])
      }),
      { numRuns: 500 },
    )
  })

  it.each(AIMS)('%s: with floors, seats that are left and people who keep together or apart too', (aim) => {
    fc.assert(
      fc.property(withRules, fc.nat(), fc.nat(), ({ input: given, rules }, i, j) => {
        const input: WishInput = { ...given, aim }
        const { seats, cost, bound } = seatWithin(input, rules, workOf(50_000_000))
        const record = recordOf(input, { seats }, { rules, proven: compareCosts(bound, cost) === 0 })
        const through: WishRecord = JSON.parse(JSON.stringify(record))
        expect(valid(through), JSON.stringify(valid.errors)).toBe(true)
        expect(checkWishes(through)).toEqual([])
        // Whoever is put with somebody from whom they keep apart is found out, and who is torn from a mate.
        const [a, b] = [through.result[i % through.result.length], through.result[j % through.result.length]]
        if (a && b) a.group = b.group
        const broken = brokenBy(
          rules,
          through.result.map(({ row, group, rank }) => ({ person: row, group, rank })),
        )
        if (broken.some(({ what }) => what !== 'floor')) expect(checkWishes(through)).not.toEqual([])
      }),
      { numRuns: 400 },
    )
  })

  it('says what of it is not checked', () => {
    expect(uncheckedIn(plain())).toEqual([])
    const rules = { order: ['floors', 'moved', 'wishes'], together: [['a', 'b']], apart: [], proven: true }
    expect(uncheckedIn({ ...plain(), rules })[1]).toMatch(/no other choice/)
    expect(uncheckedIn({ ...plain(), rules: { ...rules, proven: false } })[1]).toMatch(/had no time/)
    expect(uncheckedIn({ ...plain(), aim: 'in-turn', rules })).toEqual([
      'People keep together or apart: whose turn it was is not checked.',
    ])
  })

  it('draws the same order of the lot as the planner', () => {
    const wishers = Array.from({ length: 30 }, (_, i) => ({ key: `row ${(i * 7) % 30}` }))
    for (const lot of [0, 1, 48_213, 4_294_967_295]) {
      const people = wishers.map(({ key }) => ({ code: key }))
      expect(lotOrder(people, lot).map((i: number) => people[i]?.code)).toEqual(
        ourOrder(wishers, lot, 'people').map(({ key }) => key),
      )
    }
  })

  it('where two changed places, is found out, unless that is as the lot would have it', () => {
    let found = 0
    let changed = 0
    fc.assert(
      fc.property(smallClass, fc.constantFrom(...AIMS), fc.nat(), fc.nat(), (drawn, aim, i, j) => {
        const record = recorded({ ...drawn, aim })
        const [a, b] = [record.result[i % record.result.length], record.result[j % record.result.length]]
        if (!a || !b || a.group === b.group) return
        ;[a.group, b.group] = [b.group, a.group]
        const rankOf = ({ row, group }: typeof a) => {
          const topic = record.groups.find(({ code }) => code === group)?.topic ?? ''
          const wishes = record.rows.find(({ code }) => code === row)?.wishes ?? []
          const at = wishes.findIndex((topics) => topics.includes(topic))
          return at < 0 ? null : at + 1
        }
        const before = [a.rank, b.rank]
        ;[a.rank, b.rank] = [rankOf(a), rankOf(b)]
        changed += 1
        const faults = checkWishes(record)
        if (faults.length > 0) found += 1
        // What is as good for everybody may be so by other seats of the same rank.
        else expect([a.rank, b.rank]).toEqual(before)
      }),
      { numRuns: 1_000 },
    )
    expect(changed).toBeGreaterThan(100)
    expect(found).toBeGreaterThan(changed / 4)
  })

  const plain = (): WishRecord =>
    recorded({
      wishers: ['a', 'b', 'c'].map((key) => ({
        key,
        section: null,
        ranks: [['kimchi'], ['miso']],
        cannot: [],
      })),
      groups: [
        { key: 'k', topic: 'kimchi', section: null, seats: 1 },
        { key: 'm', topic: 'miso', section: null, seats: 2 },
      ],
      aim: 'most-first',
      offers: 'section',
      lotNumber: 7,
    })

  it.each<[string, (record: WishRecord) => unknown, RegExp]>([
    [
      'another lot number',
      (record) => Object.assign(record, { lotNumber: record.lotNumber + 1 }),
      /place in the lot/,
    ],
    [
      'a group over its seats',
      (record) => Object.assign(record.groups[1] ?? {}, { seats: 1 }),
      /sit in m, which had 1/,
    ],
    [
      'a rank that is not so',
      (record) => Object.assign(record.result[0] ?? {}, { rank: 9 }),
      /the result says 9/,
    ],
    ['a row that is missing', (record) => record.result.pop(), /is not in the result/],
    [
      'a group that is not there',
      (record) => Object.assign(record.result[0] ?? {}, { group: 'x' }),
      /does not have/,
    ],
    ['a seat that was free', (record) => Object.assign(record.groups[0] ?? {}, { seats: 2 }), /not the best/],
    [
      'what somebody cannot have',
      (record) => record.rows[0]?.cannot.push('miso', 'kimchi'),
      /not open to it/,
    ],
    ['another schema', (record) => Object.assign(record, { schema: 'x' }), /no record of wishes/],
    [
      'a code that stands twice',
      (record) => record.rows.push(record.rows[0] as WishRecord['rows'][number]),
      /stands twice/,
    ],
  ])('is refused for %s', (_, change, message) => {
    const record = plain()
    expect(checkWishes(record)).toEqual([])
    change(record)
    // Of other lot numbers some give the same order.
    for (let n = 0; n < 20 && checkWishes(record).length === 0; n++) change(record)
    expect(checkWishes(record).join()).toMatch(message)
  })

  it('is checked from the command line', () => {
    const folder = mkdtempSync(join(tmpdir(), 'haplon-wishes-'))
    const check = (text: string) => {
      writeFileSync(join(folder, 'record.json'), text)
      return spawnSync(process.execPath, ['scripts/check-wishes.mjs', join(folder, 'record.json')], {
        cwd: root,
        encoding: 'utf8',
      })
    }
    try {
      expect(check(JSON.stringify(plain()))).toMatchObject({
        status: 0,
        stdout: expect.stringMatching(/what the rules give, for 3 rows/),
      })
      expect(check(JSON.stringify({ ...plain(), result: [] }))).toMatchObject({
        status: 1,
        stdout: expect.stringMatching(/not in the result/),
      })
      expect(check('{').status).toBe(2)
      expect(() =>
        execFileSync(process.execPath, ['scripts/check-wishes.mjs'], { cwd: root, stdio: 'pipe' }),
      ).toThrow(/Give the record/)
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })
})
