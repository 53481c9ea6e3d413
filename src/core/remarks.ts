import { STEP } from './marks.ts'

/**
 * Where a remark stands in a work. A passage is given by offsets into the text, in UTF-16 units. Places on a page are
 * fractions of its width and height, from its upper left corner as it is read; a picture is its own page 1.
 */
export type RemarkPlace =
  | { kind: 'passage'; start: number; end: number }
  | { kind: 'spot'; page: number; x: number; y: number }
  | { kind: 'area'; page: number; x: number; y: number; width: number; height: number }

export type Passage = Extract<RemarkPlace, { kind: 'passage' }>
export type Spot = Extract<RemarkPlace, { kind: 'spot' }>
export type Area = Extract<RemarkPlace, { kind: 'area' }>

/** Most remarks on the work of one group or student, most characters of one, and of an answer to it. */
export const MOST_REMARKS = 300
export const MOST_REMARK = 2_000
export const MOST_ANSWER = 1_000
/** Pages that a remark can be on. */
export const MOST_PAGE = 10_000
/** The least that an area measures, as a part of its page: what is smaller was meant as a spot. */
export const LEAST_AREA = 0.008

/** Characters beside a passage that tell it from others that read the same. */
const BESIDE = 40
/** A passage this long is known by itself; a shorter one needs this much around it that still reads the same. */
const KNOWN_BY_ITSELF = 24
const ENOUGH_AROUND = 12

/** A text with every run of white space as one space, and for each place in it the place in the text. */
function evened(text: string): { even: string; at: number[] } {
  let even = ''
  const at: number[] = []
  for (let i = 0; i < text.length; i++) {
    const space = /\s/.test(text.charAt(i))
    if (space && even.endsWith(' ')) continue
    even += space ? ' ' : text.charAt(i)
    at.push(i)
  }
  at.push(text.length)
  return { even, at }
}

function commonEnd(a: string, b: string): number {
  let n = 0
  while (n < a.length && n < b.length && a.at(-1 - n) === b.at(-1 - n)) n++
  return n
}

function commonStart(a: string, b: string): number {
  let n = 0
  while (n < a.length && n < b.length && a.charAt(n) === b.charAt(n)) n++
  return n
}

/**
 * Finds a passage of one version of a text in a further one: where the same words stand, however the lines are broken.
 * Of several such places the one whose surroundings are most alike is meant, then the nearest. Words that are common need
 * surroundings that are alike at all.
 * @returns null where the passage does not stand any more
 */
export function findPassage(before: string, passage: Passage, after: string): Passage | null {
  if (before === after) return passage
  const words = evened(before.slice(passage.start, passage.end)).even.trim()
  if (words === '') return null
  const left = evened(before.slice(Math.max(0, passage.start - 4 * BESIDE), passage.start)).even.slice(
    -BESIDE,
  )
  const right = evened(before.slice(passage.end, passage.end + 4 * BESIDE)).even.slice(0, BESIDE)
  const { even, at } = evened(after)
  const need =
    words.length >= KNOWN_BY_ITSELF ? 0 : Math.min(ENOUGH_AROUND, left.trim().length + right.trim().length)
  let best: { start: number; end: number; alike: number; far: number } | null = null
  for (let i = even.indexOf(words); i !== -1; i = even.indexOf(words, i + 1)) {
    const end = i + words.length
    const alike =
      commonEnd(left.trimEnd(), even.slice(Math.max(0, i - BESIDE - 1), i).trimEnd()) +
      commonStart(right.trimStart(), even.slice(end, end + BESIDE + 1).trimStart())
    const start = at[i] ?? 0
    const far = Math.abs(start - passage.start)
    if (alike < need) continue
    if (best && (alike < best.alike || (alike === best.alike && far >= best.far))) continue
    best = { start, end: (at[end - 1] ?? 0) + 1, alike, far }
  }
  return best && { kind: 'passage', start: best.start, end: best.end }
}

/** A passage without white space at its ends, and never between the halves of one character; null where nothing is left. */
export function fitPassage(text: string, from: number, to: number): Passage | null {
  let start = Math.max(0, Math.min(from, to))
  let end = Math.min(text.length, Math.max(from, to))
  const splits = (i: number) =>
    /[\uD800-\uDBFF]/.test(text.charAt(i - 1)) && /[\uDC00-\uDFFF]/.test(text.charAt(i))
  if (splits(start)) start -= 1
  if (splits(end)) end += 1
  while (start < end && /\s/.test(text.charAt(start))) start += 1
  while (end > start && /\s/.test(text.charAt(end - 1))) end -= 1
  return start < end ? { kind: 'passage', start, end } : null
}

/** The area between two corners on a page, kept inside of it; a spot where it would be too small to be meant as an area. */
export function areaBetween(
  page: number,
  from: { x: number; y: number },
  to: { x: number; y: number },
): Area | Spot {
  const inside = (n: number) => Math.max(0, Math.min(1, n))
  const [x, x2] = [inside(Math.min(from.x, to.x)), inside(Math.max(from.x, to.x))]
  const [y, y2] = [inside(Math.min(from.y, to.y)), inside(Math.max(from.y, to.y))]
  if (x2 - x < LEAST_AREA && y2 - y < LEAST_AREA) return { kind: 'spot', page, x, y }
  const width = Math.min(1, Math.max(LEAST_AREA, x2 - x))
  const height = Math.min(1, Math.max(LEAST_AREA, y2 - y))
  return { kind: 'area', page, x: Math.min(x, 1 - width), y: Math.min(y, 1 - height), width, height }
}

/** A place moved on its page by parts of its width and height, kept inside of it; a passage stays where it is. */
export function movePlace(place: RemarkPlace, by: { x: number; y: number }): RemarkPlace {
  if (place.kind === 'passage') return place
  const { width, height } = place.kind === 'area' ? place : { width: 0, height: 0 }
  return {
    ...place,
    x: Math.max(0, Math.min(1 - width, place.x + by.x)),
    y: Math.max(0, Math.min(1 - height, place.y + by.y)),
  }
}

/** An area made larger or smaller from its upper left corner; a spot becomes an area. A passage stays as it is. */
export function sizePlace(place: RemarkPlace, by: { x: number; y: number }): RemarkPlace {
  if (place.kind === 'passage') return place
  const { width, height } = place.kind === 'area' ? place : { width: LEAST_AREA, height: LEAST_AREA }
  const corner = {
    x: place.x + Math.max(LEAST_AREA, width + by.x),
    y: place.y + Math.max(LEAST_AREA, height + by.y),
  }
  return areaBetween(place.page, place, corner)
}

/** Orders places as they are read: by page, from the top, from the left. Places of one part of a work. */
export function byPlace(a: RemarkPlace, b: RemarkPlace): number {
  if (a.kind === 'passage' || b.kind === 'passage') {
    if (a.kind === 'passage' && b.kind === 'passage') return a.start - b.start || a.end - b.end
    return a.kind === 'passage' ? -1 : 1
  }
  return a.page - b.page || a.y - b.y || a.x - b.x
}

/** A stretch of text with everything that lies over the whole of it. */
export interface Stretch {
  start: number
  end: number
  ids: string[]
}

/** Cuts what lies between two offsets wherever a passage begins or ends. Passages may overlap. */
export function stretches(
  from: number,
  to: number,
  passages: readonly { id: string; start: number; end: number }[],
): Stretch[] {
  const inside = passages.filter(({ start, end }) => start < to && end > from)
  const cuts = new Set([from, to])
  for (const { start, end } of inside) {
    cuts.add(Math.max(from, start))
    cuts.add(Math.min(to, end))
  }
  const sorted = [...cuts].sort((a, b) => a - b)
  return sorted.slice(0, -1).map((start, i) => {
    const end = sorted[i + 1] ?? to
    const ids = inside.filter((one) => one.start <= start && one.end >= end).map(({ id }) => id)
    return { start, end, ids }
  })
}

/** Characters after which lines stand in a block of their own, lines that one has at most, and its most characters. */
const BLOCK = 200
const BLOCK_LINES = 12
const LONGEST_BLOCK = 2_000

/**
 * Parts a long text into blocks that can be drawn one by one: some lines each, and a line that is very long in pieces at
 * a space. Together they are the whole text, but for the line break after each.
 */
export function blocksOf(text: string): { start: number; end: number }[] {
  const blocks: { start: number; end: number }[] = []
  let begun = 0
  let lines = 0
  let at = 0
  const close = (end: number) => {
    for (let from = begun; from <= end; ) {
      let to = Math.min(end, from + LONGEST_BLOCK)
      if (to < end) {
        const space = text.lastIndexOf(' ', to)
        if (space > from) to = space + 1
        else if (/[\uDC00-\uDFFF]/.test(text.charAt(to))) to -= 1
      }
      blocks.push({ start: from, end: to })
      if (to === end) break
      from = to
    }
  }
  while (at <= text.length) {
    const next = text.indexOf('\n', at)
    const end = next === -1 ? text.length : next
    lines += 1
    if (next === -1 || end - begun >= BLOCK || lines >= BLOCK_LINES) {
      close(end)
      begun = end + 1
      lines = 0
    }
    at = end + 1
    if (next === -1) break
  }
  return blocks
}

/**
 * What the points of remarks come to for a criterion that brings at most so many: those lost are taken from the most;
 * once any are earned, all are counted from none. In the step of points, between none and the most.
 * @returns null where no remark carries points
 */
export function pointsOfRemarks(points: readonly number[], most: number): number | null {
  if (points.length === 0) return null
  const sum = points.reduce((all, one) => all + one, 0)
  const from = points.some((one) => one > 0) ? 0 : most
  return Math.max(0, Math.min(most, Math.round((from + sum) / STEP) * STEP))
}

/** Where a sentence ends: after its sign and what closes it, or with its line. */
const SENTENCE_END = /[.!?…]+["'”’»)\]]*(?=\s)|\n/g

/** The first sentence that begins at or after a place in a text; null where none does. */
export function sentenceFrom(text: string, from: number): Passage | null {
  let start = Math.max(0, from)
  while (start < text.length) {
    SENTENCE_END.lastIndex = start
    const found = SENTENCE_END.exec(text)
    const passage = fitPassage(text, start, found ? found.index + found[0].length : text.length)
    if (passage) return passage
    start = found ? found.index + found[0].length : text.length
  }
  return null
}

/** The last sentence that begins before a place in a text; null where none does. */
export function sentenceBefore(text: string, before: number): Passage | null {
  let last: Passage | null = null
  // Looked for from a little way back, and from ever further where nothing begins there.
  for (let back = 1_000; ; back *= 8) {
    const from = Math.max(0, before - back)
    for (
      let next = sentenceFrom(text, from);
      next && next.start < before;
      next = sentenceFrom(text, next.end)
    )
      // From the middle of a text the first may be the end of one only.
      if (from === 0 || next.start > from) last = next
    if (last || from === 0) return last
  }
}

/** A criterion with the points of a remark, in words: “Method −1”. */
export function aboutOf(
  { criterion, points }: { criterion: string | null; points: number | null },
  criteria: readonly { id: string; title: string }[],
): string {
  const title = criteria.find(({ id }) => id === criterion)?.title ?? ''
  if (points === null) return title
  const given = `${points > 0 ? '+' : ''}${String(points).replace('-', '−')}`
  return title ? `${title} ${given}` : `${given} ${Math.abs(points) === 1 ? 'point' : 'points'}`
}
