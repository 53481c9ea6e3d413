import { isEmail, normalEmail } from '../email.ts'
import { cleanText } from '../text.ts'

/** Somebody of a list of addresses, by the line in which they stand. */
export interface Addressed {
  line: number
  /** Empty where only the address stands. */
  name: string
  email: string
}

const ANGLED = /<\s*([^<>\s@]+@[^<>\s@]+)\s*>/g

/**
 * Reads a list of addresses as mail programs write and take them (RFC 5322, 3.4): `Ada Lind <ada@s.example>; …`, or
 * addresses alone, set off by commas, semicolons or line breaks. A name that is written surname first is turned.
 * @returns null where the text is something else
 */
export function readAddressList(text: string): Addressed[] | null {
  const found: Addressed[] = []
  for (const [i, line] of text
    .replace(/^\uFEFF/, '')
    .split(/\r\n|\n|\r/)
    .entries()) {
    let at = 0
    const bare = (part: string): string | null => {
      // What stands before a name in angles, or alone: addresses, and at the end a name.
      const words: string[] = []
      for (const piece of part.split(/[;,]/)) {
        const email = normalEmail(piece)
        if (isEmail(email)) found.push({ line: i + 1, name: '', email })
        else if (piece.includes('@')) return null
        else if (piece.trim() !== '') words.push(piece)
      }
      return words.join(',')
    }
    for (const angled of line.matchAll(ANGLED)) {
      const name = bare(line.slice(at, angled.index))
      const email = normalEmail(angled[1] ?? '')
      if (name === null || !isEmail(email)) return null
      found.push({ line: i + 1, name: nameOf(name), email })
      at = angled.index + angled[0].length
    }
    if (bare(line.slice(at)) !== '') return null
  }
  return found.length > 0 ? found : null
}

/** A name without the marks around it; “Lind, Ada” is Ada Lind. */
function nameOf(written: string): string {
  const name = cleanText(written.replace(/["“”]/g, ''))
  const turned = /^([^,]+),\s*([^,]+)$/.exec(name)
  return turned ? `${turned[2]} ${turned[1]}` : name
}

/** What somebody is called whose address alone is known: “ada.lind@…” is Ada Lind. */
export function nameFromAddress(email: string): string {
  const words = (email.split('@')[0] ?? '')
    .split(/[._-]+/)
    .filter((word) => /\p{L}/u.test(word))
    .map((word) => word.charAt(0).toLocaleUpperCase('en') + word.slice(1))
  return words.join(' ') || email
}
