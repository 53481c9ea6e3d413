import fc from 'fast-check'
import Papa from 'papaparse'
import { expect, it } from 'vitest'
import type { TopicGroup, TopicLine } from './topicGroups.ts'
import { readTopicsCsv, type WrittenKept, writeTopicsCsv } from './topicsCsv.ts'

const SECTIONS = [
  { code: 'tue', name: 'Tue lab' },
  { code: 'wed', name: 'Wed lab' },
  { code: 'fri', name: 'Fri; or “any”' },
]
const PEOPLE = [
  { code: 'ada', name: 'Ada Lindqvist', email: 'ada@school.example' },
  { code: 'odd', name: 'Bo "the; jar" <x>', email: 'bo@school.example' },
  { code: 'ada2', name: 'Ada Lindqvist', email: 'ada.two@school.example' },
]

const text = (most: number) => fc.string({ maxLength: most }).map((t) => t.replace(/[\s\0']+/g, ' ').trim())
const limits = {
  seats: fc.option(fc.oneof(fc.integer({ min: 5, max: 500 }), fc.constant('none' as const))),
  floor: fc.option(fc.integer({ min: 1, max: 5 })),
}
const slot = fc
  .option(
    fc.record({
      hour: fc.integer({ min: 0, max: 22 }),
      endsAt: fc.constantFrom(null, '2026-05-13T23:45', '2026-05-14T00:15', '2026-05-16T12:00'),
    }),
  )
  .map((drawn) => ({
    startsAt: drawn ? `2026-05-13T${String(drawn.hour).padStart(2, '0')}:30` : null,
    endsAt: drawn?.endsAt ?? null,
  }))
const link = fc.constantFrom('', 'https://meet.example/a?b=c,d')
const kept = fc.array(
  fc.oneof(
    fc.constantFrom(...PEOPLE).map(({ code }) => ({ person: code })),
    fc
      .oneof(text(20), fc.constantFrom('ada@school.example', 'a guest; or two', 'in "ink"', 'x <y>'))
      .filter((note) => note !== '' && !PEOPLE.some(({ name }) => name === note))
      .map((note) => ({ note })),
  ),
  { maxLength: 3 },
)
const group = fc
  .record({ ...limits, slot, place: text(20), link, offered: fc.boolean(), kept })
  .map(({ slot: at, place, link: to, ...rest }) => ({
    ...rest,
    ...at,
    place: place || null,
    link: to || null,
  }))
const topic = fc
  .record({
    title: text(40).filter((t) => t !== ''),
    brief: text(80),
    ...limits,
    slot,
    place: text(20),
    link,
    mixed: fc.constantFrom(null, true, false),
    offered: fc.boolean(),
    kept,
    groups: fc.dictionary(fc.constantFrom('tue', 'wed', 'fri'), group),
  })
  .map(({ slot: at, ...rest }) => ({ ...rest, ...at }))
type Drawn = typeof topic extends fc.Arbitrary<infer T> ? T : never

const written = (items: readonly ({ person: string } | { note: string })[]): WrittenKept[] =>
  items.map((one) => {
    const found = 'person' in one ? PEOPLE.find(({ code }) => code === one.person) : undefined
    return found ? { name: found.name, email: found.email } : { note: 'note' in one ? one.note : '' }
  })

it.each([
  { what: 'in a course with sections', sections: SECTIONS, mixed: false },
  { what: 'on a sheet of mixed groups', sections: SECTIONS, mixed: true },
  { what: 'in a course without sections', sections: [], mixed: false },
])('topics come back unchanged from what is written $what, and no cell of it is a formula', (sheet) => {
  const isSingle = ({ mixed }: Drawn) => sheet.sections.length === 0 || (mixed ?? sheet.mixed)
  const topics = fc.uniqueArray(topic, {
    minLength: 1,
    maxLength: 8,
    selector: ({ title }) => title.toLowerCase(),
  })
  fc.assert(
    fc.property(topics, (drawn) => {
      const plain = { seats: null, floor: null, startsAt: null, endsAt: null, place: null, link: null }
      const differs = (one: Omit<TopicGroup, 'line' | 'section'>) =>
        !one.offered ||
        one.kept.length > 0 ||
        Object.keys(plain).some((key) => one[key as keyof typeof plain] !== null)
      const expected = drawn.map((one): Omit<TopicLine, 'line'> & { groups: Omit<TopicGroup, 'line'>[] } => {
        const { offered, kept: items, groups, ...rest } = one
        const own = { ...plain, section: null, offered, kept: items }
        const apart = SECTIONS.flatMap(({ code }) => {
          const found = groups[code]
          return found && differs(found) ? [{ section: code, ...found }] : []
        })
        return { ...rest, groups: (isSingle(one) ? [own].filter(differs) : apart) as TopicGroup[] }
      })
      const csv = writeTopicsCsv(
        drawn.map((one) => ({
          ...one,
          offered: !isSingle(one) || one.offered,
          kept: isSingle(one) ? written(one.kept) : [],
          groups: isSingle(one)
            ? []
            : SECTIONS.flatMap(({ code, name }) => {
                const found = one.groups[code]
                return found && differs(found) ? [{ ...found, section: name, kept: written(found.kept) }] : []
              }),
        })),
      )
      const reading = readTopicsCsv(csv, [], 200, { ...sheet, people: PEOPLE, seats: 0 })
      if (!reading.readable) throw new Error(reading.message)
      expect(reading.faults).toEqual([])
      expect(reading.notes).toEqual([])
      const there = reading.lines.map(({ line: _, groups, ...rest }) => ({
        ...rest,
        groups: groups.map(({ line: _, ...own }) => own),
      }))
      expect(there).toEqual(expected)
      for (const cell of Papa.parse<string[]>(csv).data.flat()) expect(cell).not.toMatch(/^[=+\-@]/)
    }),
  )
})
