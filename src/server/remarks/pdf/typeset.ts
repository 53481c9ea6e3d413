import type { PDFFont } from 'pdf-lib'

/** A line of a text that was broken to a width: where it begins and ends in the text, and what is drawn of it. */
export interface Line {
  start: number
  end: number
  text: string
  /** Where each character is, from the left, in points; one more than there are UTF-16 units: the end. */
  at: number[]
}

/** Drawn for what the font has no letter for. */
const NONE = '□'
const TAB = '    '

/** A font at a size, with the widths of its letters. */
export type Face = ReturnType<typeof createFace>

export function createFace(font: PDFFont, size: number) {
  const has = new Set(font.getCharacterSet())
  const widths = new Map<string, number>()
  const widthOf = (letter: string): number => {
    const known = widths.get(letter)
    if (known !== undefined) return known
    const width = font.widthOfTextAtSize(letter, size)
    widths.set(letter, width)
    return width
  }
  /** What is drawn for a letter: itself, spaces for a tab, nothing for what cannot be seen, a box for what is missing. */
  const drawn = (letter: string): string => {
    if (letter === '\t') return TAB
    if (/\p{White_Space}/u.test(letter)) return ' '
    if (/[\p{Cc}\p{Cf}\p{Variation_Selector}]/u.test(letter)) return ''
    return has.has(letter.codePointAt(0) ?? 0) ? letter : NONE
  }
  return {
    font,
    size,
    /** Whether every letter of a text is there. */
    hasAll: (text: string) => [...text].every((letter) => drawn(letter) !== NONE || letter === NONE),
    widthOf: (text: string) => [...text].reduce((sum, letter) => sum + widthOf(drawn(letter) || ' '), 0),
    /** Breaks a text into lines no wider than a width: at its line breaks, else at a space, else within a word. */
    lines(text: string, width: number): Line[] {
      const lines: Line[] = []
      let begun = 0
      for (const paragraph of text.split('\n')) {
        breakUp(text, begun, begun + paragraph.length, width, lines)
        begun += paragraph.length + 1
      }
      return lines
    },
  }

  function breakUp(text: string, from: number, end: number, width: number, lines: Line[]): void {
    let start = from
    do {
      let line = ''
      const at: number[] = []
      let x = 0
      let i = start
      // The last place at which the line can be broken, and how much of it is drawn up to there.
      let space: { end: number; drawn: number; at: number } | null = null
      let full = false
      while (i < end) {
        const letter = String.fromCodePoint(text.codePointAt(i) ?? 32)
        const shown = drawn(letter)
        const wide = [...shown].reduce((sum, one) => sum + widthOf(one), 0)
        if (x + wide > width && i > start && shown !== ' ') {
          full = true
          break
        }
        for (let unit = 0; unit < letter.length; unit++) at.push(x)
        x += wide
        line += shown
        i += letter.length
        if (shown === ' ' || letter === '-') space = { end: i, drawn: line.length, at: at.length }
      }
      if (full && space) {
        lines.push({
          start,
          end: space.end,
          text: line.slice(0, space.drawn),
          at: [...at.slice(0, space.at), at[space.at] ?? x],
        })
        start = space.end
      } else {
        lines.push({ start, end: i, text: line, at: [...at, x] })
        start = i
      }
    } while (start < end)
  }
}
