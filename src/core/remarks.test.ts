import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  aboutOf,
  areaBetween,
  blocksOf,
  byPlace,
  findPassage,
  fitPassage,
  LEAST_AREA,
  movePlace,
  type Passage,
  pointsOfRemarks,
  type RemarkPlace,
  sentenceBefore,
  sentenceFrom,
  sizePlace,
  stretches,
} from './remarks.ts'

const passageOf = (text: string, words: string, nth = 0): Passage => {
  let start = text.indexOf(words)
  for (let i = 0; i < nth; i++) start = text.indexOf(words, start + 1)
  return { kind: 'passage', start, end: start + words.length }
}
const read = (text: string, { start, end }: Passage) => text.slice(start, end)

describe('a passage in a further version', () => {
  const first =
    'The brine was at 2 %.\nWe tasted it daily. The brine was too weak, we think.\nThe jar stood at 18 °C.'

  it('stands where its words still stand, whatever was written before it', () => {
    const next = `An introduction, new.\n\n${first}`
    const found = findPassage(first, passageOf(first, 'We tasted it daily.'), next)
    expect(found && read(next, found)).toBe('We tasted it daily.')
    expect(found?.start).toBe(next.indexOf('We tasted'))
  })

  it('stands over other line breaks and doubled spaces', () => {
    const next = first.replace('tasted it daily. The brine', 'tasted\n  it daily. The  brine')
    const found = findPassage(first, passageOf(first, 'We tasted it daily. The brine was too weak'), next)
    expect(found && read(next, found)).toBe('We tasted\n  it daily. The  brine was too weak')
  })

  it('is gone where its words were changed', () => {
    const next = first.replace('too weak', 'much too weak')
    expect(findPassage(first, passageOf(first, 'The brine was too weak, we think.'), next)).toBeNull()
  })

  it('of words that stand several times is the one with the same surroundings', () => {
    const next = first.replace('The brine was at 2 %.', 'The salt water was at 2 %, and the jar stood open.')
    expect(findPassage(first, passageOf(first, 'The brine', 1), next)?.start).toBe(
      next.indexOf('The brine was too'),
    )
    // The first of them is gone; the one that is left is no stand-in for it.
    expect(findPassage(first, passageOf(first, 'The brine', 0), next)).toBeNull()
  })

  it('that is the whole text stands only in a text that is the same', () => {
    expect(findPassage('Ja.', { kind: 'passage', start: 0, end: 3 }, 'Ja. ')).toEqual({
      kind: 'passage',
      start: 0,
      end: 3,
    })
    expect(findPassage('Ja.', { kind: 'passage', start: 0, end: 3 }, 'Nein.')).toBeNull()
  })

  // Words of a language without meaning, so that passages differ and repeat as real ones do.
  const word = fc.stringMatching(/^[a-zäß]{2,9}$/)
  const words = fc.array(word, { minLength: 1, maxLength: 30 }).map((all) => all.join(' '))

  it('is found at its very place after any change before and behind it (property)', () => {
    fc.assert(
      fc.property(words, words, words, words, words, (a, quote, b, before, behind) => {
        const marked = `<${quote}> ${'x'.repeat(24)}`
        const old = `${a}\n${marked}\n${b}`
        const next = `${before}\n\n${marked}\n${behind}`
        const found = findPassage(old, passageOf(old, marked), next)
        expect(found && read(next, found)).toBe(marked)
      }),
    )
  })

  it('reads the same, white space apart, wherever it is found (property)', () => {
    const even = (text: string) => text.replace(/\s+/g, ' ').trim()
    fc.assert(
      fc.property(words, words, fc.nat(), fc.nat(), (old, next, i, j) => {
        const passage = fitPassage(old, i % old.length, (j % old.length) + 1)
        if (!passage) return
        for (const text of [next, `${next} ${old}`, old.replaceAll(' ', '\n')]) {
          const found = findPassage(old, passage, text)
          if (found) expect(even(read(text, found))).toBe(even(read(old, passage)))
        }
        // Set behind something else it always stands: its surroundings came along.
        expect(findPassage(old, passage, `${next}\n${old}`)).not.toBeNull()
      }),
    )
  })
})

describe('what is marked', () => {
  it('has no white space at its ends and no half characters', () => {
    const text = 'a 🧂 salt \n'
    expect(fitPassage(text, 1, 10)).toEqual({ kind: 'passage', start: 2, end: 9 })
    expect(fitPassage(text, 3, 4)).toEqual({ kind: 'passage', start: 2, end: 4 })
    expect(fitPassage(text, 9, 5)).toEqual({ kind: 'passage', start: 5, end: 9 })
    expect(fitPassage(text, 9, 11)).toBeNull()
  })

  it('is an area inside of the page, or a spot where it is too small for one', () => {
    expect(areaBetween(2, { x: 0.5, y: 0.6 }, { x: 0.2, y: 0.1 })).toEqual({
      kind: 'area',
      page: 2,
      x: 0.2,
      y: 0.1,
      width: 0.3,
      height: 0.5,
    })
    expect(areaBetween(1, { x: 0.5, y: 0.5 }, { x: 0.501, y: 0.502 })).toMatchObject({ kind: 'spot' })
    const unit = fc.double({ min: -2, max: 3, noNaN: true })
    const corner = fc.record({ x: unit, y: unit })
    fc.assert(
      fc.property(corner, corner, corner, corner, (from, to, moved, sized) => {
        for (const place of [
          areaBetween(1, from, to),
          movePlace(areaBetween(1, from, to), moved),
          sizePlace(areaBetween(1, from, to), sized),
        ]) {
          if (place.kind === 'passage') throw new Error('not on a page')
          const { width, height } = place.kind === 'area' ? place : { width: 0, height: 0 }
          for (const n of [place.x, place.y]) expect(n).toBeGreaterThanOrEqual(0)
          expect(place.x + width).toBeLessThanOrEqual(1 + 1e-9)
          expect(place.y + height).toBeLessThanOrEqual(1 + 1e-9)
          if (place.kind === 'area') expect(width).toBeGreaterThanOrEqual(LEAST_AREA - 1e-9)
        }
      }),
    )
  })

  it('is ordered as it is read', () => {
    const places: RemarkPlace[] = [
      { kind: 'spot', page: 2, x: 0, y: 0 },
      { kind: 'area', page: 1, x: 0.5, y: 0.2, width: 0.1, height: 0.1 },
      { kind: 'spot', page: 1, x: 0.1, y: 0.2 },
      { kind: 'passage', start: 5, end: 9 },
      { kind: 'passage', start: 0, end: 9 },
    ]
    expect(places.toSorted(byPlace)).toEqual([places[4], places[3], places[2], places[1], places[0]])
  })

  it('is cut where passages begin and end, and put together again it is whole (property)', () => {
    expect(
      stretches(0, 10, [
        { id: 'a', start: 2, end: 6 },
        { id: 'b', start: 4, end: 12 },
      ]),
    ).toEqual([
      { start: 0, end: 2, ids: [] },
      { start: 2, end: 4, ids: ['a'] },
      { start: 4, end: 6, ids: ['a', 'b'] },
      { start: 6, end: 10, ids: ['b'] },
    ])
    const passage = fc.tuple(fc.nat(60), fc.nat(60)).map(([i, j]) => [Math.min(i, j), Math.max(i, j) + 1])
    fc.assert(
      fc.property(fc.array(passage, { maxLength: 8 }), (all) => {
        const passages = all.map(([start = 0, end = 0], i) => ({ id: String(i), start, end }))
        const cut = stretches(10, 50, passages)
        expect(cut[0]?.start).toBe(10)
        expect(cut.at(-1)?.end).toBe(50)
        for (const [i, { start, end, ids }] of cut.entries()) {
          expect(start).toBe(i === 0 ? 10 : cut[i - 1]?.end)
          for (let at = start; at < end; at++)
            expect(passages.filter((one) => one.start <= at && at < one.end).map(({ id }) => id)).toEqual(ids)
        }
      }),
    )
  })
})

describe('blocks of a long text', () => {
  const rejoined = (text: string) =>
    blocksOf(text).reduce((all, { start, end }, i) => {
      const gap = i === 0 ? '' : text.slice(all.length, start)
      expect(['', '\n']).toContain(gap)
      return all + gap + text.slice(start, end)
    }, '')

  it('are the whole text, line breaks between them apart (property)', () => {
    fc.assert(
      fc.property(
        fc.array(fc.oneof(fc.string({ maxLength: 400 }), fc.constant('')), { maxLength: 60 }),
        (lines) => {
          const text = lines.join('\n')
          expect(rejoined(text)).toBe(text)
        },
      ),
    )
  })

  it('are never many nor large, however hostile the text', () => {
    for (const text of [
      '\n'.repeat(100_000),
      'x'.repeat(100_000),
      '🧂'.repeat(50_000),
      'ab '.repeat(33_000),
    ]) {
      const blocks = blocksOf(text)
      expect(rejoined(text)).toBe(text)
      expect(blocks.length).toBeLessThan(8_500)
      for (const { start, end } of blocks) expect(end - start).toBeLessThanOrEqual(2_001)
    }
    expect(blocksOf('🧂'.repeat(50_000)).every(({ start }) => start % 2 === 0)).toBe(true)
    expect(blocksOf('')).toEqual([{ start: 0, end: 0 }])
  })
})

describe('points of remarks', () => {
  it('are taken from the most while none are earned, and counted from none else', () => {
    expect(pointsOfRemarks([], 5)).toBeNull()
    expect(pointsOfRemarks([-1, -0.5], 5)).toBe(3.5)
    expect(pointsOfRemarks([2, -0.5], 5)).toBe(1.5)
    expect(pointsOfRemarks([4, 4], 5)).toBe(5)
    expect(pointsOfRemarks([-9], 5)).toBe(0)
    expect(pointsOfRemarks([0], 5)).toBe(5)
  })
})

describe('sentences', () => {
  const text = 'First one. “Second!” Third 1.5 litres?\n\nA heading\nLast'
  const all = ['First one.', '“Second!”', 'Third 1.5 litres?', 'A heading', 'Last']

  it('are gone through forwards and backwards', () => {
    const forwards = []
    for (let next = sentenceFrom(text, 0); next; next = sentenceFrom(text, next.end))
      forwards.push(text.slice(next.start, next.end))
    expect(forwards).toEqual(all)
    const backwards = []
    for (let next = sentenceBefore(text, text.length); next; next = sentenceBefore(text, next.start))
      backwards.unshift(text.slice(next.start, next.end))
    expect(backwards).toEqual(all)
  })

  it('are found in a text without any end, and from far away (property)', () => {
    expect(sentenceFrom('   ', 0)).toBeNull()
    expect(sentenceBefore('x'.repeat(50_000), 50_000)).toEqual({ kind: 'passage', start: 0, end: 50_000 })
    fc.assert(
      fc.property(fc.array(fc.constantFrom('a', '. ', '.', '\n', ' ', 'bc?'), { maxLength: 80 }), (parts) => {
        const made = parts.join('')
        const starts = []
        for (let next = sentenceFrom(made, 0); next; next = sentenceFrom(made, next.end))
          starts.push(next.start)
        const back = []
        for (let next = sentenceBefore(made, made.length); next; next = sentenceBefore(made, next.start))
          back.unshift(next.start)
        expect(back).toEqual(starts)
      }),
    )
  })
})

it('what a remark is about is its criterion with its points', () => {
  const criteria = [{ id: 'm', title: 'Method' }]
  expect(aboutOf({ criterion: 'm', points: -1.5 }, criteria)).toBe('Method −1.5')
  expect(aboutOf({ criterion: 'm', points: 2 }, criteria)).toBe('Method +2')
  expect(aboutOf({ criterion: 'm', points: null }, criteria)).toBe('Method')
  expect(aboutOf({ criterion: 'gone', points: 1 }, criteria)).toBe('+1 point')
  expect(aboutOf({ criterion: null, points: -2 }, [])).toBe('−2 points')
  expect(aboutOf({ criterion: null, points: null }, [])).toBe('')
})
