/** Marks of direction, joiners without width, and whatever else is in a text and never seen: Unicode’s Cf and Cc. */
const INVISIBLE = /[\p{Cf}\p{Cc}]/u

/** Joiners that belong between letters in some alphabets, and between the parts of some emoji. */
const JOINERS =
  /(?<=\p{L}|\p{M}|\p{Extended_Pictographic})[\u200C\u200D](?=[\p{L}\p{Extended_Pictographic}])/gu

/** More marks on one letter than any language writes (UAX 15, stream-safe text): ordering them costs their square. */
const PILED = /\p{M}{31}/u

/** Whether marks are piled on a letter: such a text is nobody's, and is neither composed nor taken apart. */
export const isPiled = (text: string): boolean => PILED.test(text)

/** A text composed (NFC), so that one spelling is one text; one with marks piled on a letter is left as it is. */
export function composed(text: string): string {
  return isPiled(text) ? text : text.normalize('NFC')
}

/**
 * A short text as it is kept, whatever it was copied from: composed (NFC), without marks that nobody sees, with plain
 * spaces, one at a time.
 */
export function cleanText(text: string): string {
  const kept = new Set([...text.matchAll(JOINERS)].map(({ index }) => index))
  let clean = ''
  let at = 0
  for (const letter of text) {
    if (kept.has(at) || !INVISIBLE.test(letter) || /\s/.test(letter)) clean += letter
    at += letter.length
  }
  return composed(clean).replace(/\s+/g, ' ').trim()
}

/** Where the first sign stands in a text that nobody sees, behind how many others; -1 where there is none. */
export function invisibleAt(text: string): number {
  return [...text.trim()].findIndex((letter) => INVISIBLE.test(letter))
}

/** What a label is compared by: without regard to case, spaces, composition and what nobody sees. */
export function labelKey(text: string): string {
  return cleanText(text).toLowerCase().replace(/\s+/g, '')
}
