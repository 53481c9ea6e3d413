/** Up to two initials of a person's name, the first and the last word's, in capitals. */
export function initials(name: string): string {
  const words = name.trim().split(/\s+/).filter(Boolean)
  const picked = words.length > 1 ? [words[0], words.at(-1)] : words
  return picked.map((word) => Array.from(word ?? '')[0]?.toLocaleUpperCase('en') ?? '').join('')
}

const DIACRITICS = /\p{Diacritic}/gu
const LETTERS: Record<string, string> = { ø: 'o', ł: 'l', đ: 'd', ß: 'ss', æ: 'ae', œ: 'oe', ı: 'i' }

/** A text as it is searched: lower case, accents folded away, so that typing `lindstrom` finds `Lindström`. */
export function searchable(text: string): string {
  return text
    .toLocaleLowerCase('en')
    .normalize('NFD')
    .replace(DIACRITICS, '')
    .replace(/[øłđßæœı]/g, (letter) => LETTERS[letter] ?? letter)
}

/** True when every word typed occurs somewhere in the texts. */
export function matches(typed: string, ...texts: readonly (string | null)[]): boolean {
  const within = searchable(texts.filter((text) => text !== null).join(' '))
  return searchable(typed)
    .split(/\s+/)
    .every((word) => within.includes(word))
}

/** Orders two names by their last word, then by the whole, as class lists do. */
export function bySurname(a: string, b: string): number {
  return byText.compare(surname(a), surname(b)) || byText.compare(a, b)
}

/** Orders things by the names they bear, as class lists do. */
export function surnameOrder<T>(nameOf: (item: T) => string): (a: T, b: T) => number {
  return (a, b) => bySurname(nameOf(a), nameOf(b))
}

const byText = new Intl.Collator('en')

function surname(name: string): string {
  return name.trim().split(/\s+/).at(-1) ?? ''
}
