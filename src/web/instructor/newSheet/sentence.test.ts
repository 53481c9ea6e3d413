import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { saySizes } from '../../../core/supply.ts'
import {
  type Class,
  FIRST_SENTENCE,
  newSheetOf,
  type Sentence,
  sumOf,
  typedTitles,
  wrongWith,
} from './sentence.ts'

const plain: Class = { students: 29, sections: [], lists: [] }
const labs: Class = {
  students: 31,
  sections: [
    { code: 'tue', name: 'Tue lab', students: 18 },
    { code: 'wed', name: 'Wed lab', students: 12 },
  ],
  lists: [
    { code: 'mon', title: 'Mondays', people: [{ section: 'tue' }, { section: 'tue' }, { section: null }] },
  ],
}
const say = (more: Partial<Sentence>): Sentence => ({ ...FIRST_SENTENCE, ...more })

describe('the sentence of a new sheet', () => {
  it('does its sums: 29 in groups of at most 3 are 10, 9 of 3 and 1 of 2', () => {
    const sum = sumOf(say({ by: 'most', n: 3 }), plain)
    expect([sum.groups, sum.seats, sum.titles.length]).toEqual([10, 3, 10])
    expect(saySizes(sum.shares[0]!.sizes)).toBe('9 groups of 3, 1 of 2')
    expect(sum.titles[9]).toBe('Group 10')
  })

  it('counts each section for itself, or all of them mixed, those in no section with them', () => {
    const own = sumOf(say({ by: 'most', n: 4 }), labs)
    expect(own.shares.map(({ name, sizes }) => [name, sizes.length])).toEqual([
      ['Tue lab', 5],
      ['Wed lab', 3],
    ])
    expect(own.titles).toHaveLength(5)
    const mixed = sumOf(say({ by: 'most', n: 4, mixed: true }), labs)
    expect(mixed.shares).toMatchObject([{ section: null, people: 31 }])
    expect(mixed.groups).toBe(8)
  })

  it('is for a part of the class: some sections, or a list', () => {
    expect(sumOf(say({ forWhom: 'sections', sections: ['wed'] }), labs).people).toBe(12)
    const list = sumOf(say({ forWhom: 'list', list: 'mon', mixed: true, n: 1 }), labs)
    expect([list.people, list.groups]).toEqual([3, 1])
  })

  it('takes topics by name, one in each line, each once', () => {
    expect(typedTitles(' Tempeh \n\nKefir\r\ntempeh\n')).toEqual(['Tempeh', 'Kefir'])
    const said = say({ by: 'topics', topics: 'Tempeh\nKefir', mixed: true })
    expect(newSheetOf(said, labs)).toMatchObject({ topics: ['Tempeh', 'Kefir'], seats: 16, mixed: true })
  })

  it('gives a first subject with its post, and a first task with its date, where they are said', () => {
    const said = say({ extras: ['talk'], subject: ' Hello ', post: 'Who are you?', task: 'Log', due: '' })
    expect(newSheetOf(said, plain)).toMatchObject({
      firstSubject: { title: 'Hello', text: 'Who are you?' },
      firstTask: { title: 'Log', dueAt: null },
    })
    // Without a talk there is no place for a subject.
    expect(newSheetOf({ ...said, extras: [] }, plain)).not.toHaveProperty('firstSubject')
    expect(newSheetOf(say({}), plain)).not.toHaveProperty('firstTask')
    expect(wrongWith({ ...said, post: ' ' }, plain).map(({ at }) => at)).toEqual(['subject'])
    expect(wrongWith({ ...said, due: 'tomor' }, plain).map(({ at }) => at)).toEqual(['task'])
    expect(wrongWith({ ...said, task: '', due: '2026-05-13T17:00' }, plain).map(({ at }) => at)).toEqual([
      'task',
    ])
  })

  it('begins a made sheet without topics, which the plan adds, and without a floor', () => {
    const made = newSheetOf(say({ road: 'made', n: 10 }), plain)
    expect(made).toMatchObject({ road: 'made', floor: 1, seats: 3 })
    expect(made.topics).toBeUndefined()
    expect(newSheetOf(say({ n: 10 }), plain).topics).toHaveLength(10)
  })

  it('says beside its place what cannot be', () => {
    const wrong = (more: Partial<Sentence>, course = labs) =>
      wrongWith(say({ mixed: true, ...more }), course).map(({ at, words }) => `${at}: ${words}`)
    expect(wrong({})).toEqual([])
    expect(wrong({ title: ' ' })).toEqual(['title: The sheet needs a title.'])
    expect(wrong({ forWhom: 'sections' })[0]).toMatch(/^whom: Choose a section/)
    expect(wrong({ forWhom: 'list' })[0]).toMatch(/^whom: Choose a list/)
    expect(wrong({ n: 40 })[0]).toBe('many: 40 groups are more than there are people: 31.')
    expect(wrong({ n: 14, mixed: false })[0]).toBe(
      'many: 14 groups are more than there are people in Wed lab: 12.',
    )
    expect(wrong({ by: 'least', n: 40 })[0]).toMatch(/make no group of at least 40/)
    expect(wrong({ n: Number.NaN })[0]).toMatch(/whole number/)
    expect(wrong({ by: 'topics', road: 'made' })[0]).toMatch(/one in each line/)
    expect(wrong({ by: 'topics' })).toEqual([])
    expect(newSheetOf(say({ by: 'topics' }), labs).seats).toBeUndefined()
    expect(wrong({}, { ...labs, students: 0, sections: [] })[0]).toMatch(/Nobody is on the roster yet/)
  })

  it('seats everybody it counts, whatever is said', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('number' as const, 'size' as const, 'most' as const, 'least' as const),
        fc.integer({ min: 1, max: 12 }),
        fc.boolean(),
        fc.array(fc.integer({ min: 1, max: 40 }), { maxLength: 4 }),
        (by, n, mixed, sizes) => {
          const sections = sizes.map((students, i) => ({ code: `s${i}`, name: `S${i}`, students }))
          const students = sections.length === 0 ? 20 : sizes.reduce((a, b) => a + b, 0)
          const sum = sumOf(say({ by, n, mixed }), { students, sections, lists: [] })
          expect(sum.shares.flatMap((one) => one.sizes).reduce((a, b) => a + b, 0)).toBe(students)
          expect(sum.titles.length).toBe(Math.max(...sum.shares.map((one) => one.sizes.length)))
        },
      ),
    )
  })
})
