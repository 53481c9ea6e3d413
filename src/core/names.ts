import { isPiled } from './text.ts'
/** Up to two initials of a person's name, the first and the last word's, in capitals. */
export function initials(name: string): string {
  const words = name.trim().split(/\s+/).filter(Boolean)
  const picked = words.length > 1 ? [words[0], words.at(-1)] : words
  return picked.map((word) => Array.from(word ?? '')[0]?.toLocaleUpperCase('en') ?? '').join('')
}

/** Names made short, each by its first word, as long as that tells them apart; else by the whole. */
export function shortNames(names: readonly string[]): string[] {
  const firsts = names.map((name) => name.trim().split(/\s+/)[0] ?? '')
  return new Set(firsts).size === new Set(names).size ? firsts : [...names]
}

const DIACRITICS = /\p{Diacritic}/gu
const LETTERS: Record<string, string> = { ø: 'o', ł: 'l', đ: 'd', ß: 'ss', æ: 'ae', œ: 'oe', ı: 'i' }

/** A text as it is searched: lower case, accents folded away, so that typing `lindstrom` finds `Lindström`. */
export function searchable(text: string): string {
  const lower = text.toLocaleLowerCase('en')
  return (isPiled(lower) ? lower : lower.normalize('NFD'))
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

/** How a course puts names in order. */
export interface NameOrder {
  /** The language whose alphabet counts, as a BCP 47 tag: `sv` puts Å after Z, `en` beside A. */
  language: string
  /** Whether particles before a surname count: “de Brito” under D, or passed over: under B. */
  particles: Particles
}

export type Particles = 'count' | 'skip'
export const PARTICLES = ['count', 'skip'] as const satisfies readonly Particles[]

/** Languages to choose from; any other that is known here will do too. */
export const LANGUAGES: readonly string[] =
  'en cs da de el es et fi fr ga hr hu is it lt lv mt nb nl pl pt ro sk sl sv tr uk'.split(' ')

export const DEFAULT_ORDER: NameOrder = { language: 'en', particles: 'skip' }

/** True when names can be put in order by a language here. */
export function isLanguage(language: string): boolean {
  try {
    return Intl.Collator.supportedLocalesOf([language]).length > 0
  } catch {
    return false
  }
}

/** Words that belong to the surname after them, in lower case. */
const PARTICLE_WORDS = new Set(
  (
    "'t a af al auf av bin bint d da dal dalla das de degli dei del dela della delle den der des di do dos du e el " +
    'ez ibn im in la las le les lo los of op ou s t te ten ter the tot und uyt van vande vanden vander ver von vom ' +
    'y zu zum zur'
  ).split(' '),
)
const AFTER = new Set(['jr', 'sr', 'ii', 'iii', 'iv'])

/** A name as a roster has it: how somebody is called, and its two parts, where it says them. */
export interface FullName {
  name: string
  /** Empty where the roster does not say. */
  given: string
  /** Empty where the roster does not say. */
  family: string
}

/** The two parts of a name: as the roster says them, else told by its words, particles with the surname. */
export function nameParts({ name, given, family }: FullName): { given: string; family: string } {
  if (given !== '' || family !== '') return { given, family }
  const told = parted(name, 'count')
  return { given: told.given, family: told.surname }
}

/** A name as class lists have it, surname first: “Strand, Mirela”. What `nameOrder` puts in order where parts were said. */
export function listedName({ name, given, family }: FullName): string {
  return family === '' ? name : `${family}, ${given || name}`
}

/** What somebody is addressed by: the given name, else the first word of how they are called. */
export function firstName({
  name,
  given,
  called,
}: Pick<FullName, 'name' | 'given'> & { called: string }): string {
  return (called === '' && given) || (name.trim().split(/\s+/)[0] ?? '')
}

/** A name as class lists read it: surname first. A comma says where the surname ends: “Strand, Mirela”. */
interface Parted {
  surname: string
  given: string
}

function parted(name: string, particles: Particles): Parted {
  const comma = name.indexOf(',')
  const [family, given] =
    comma > 0 ? [wordsOf(name.slice(0, comma)), wordsOf(name.slice(comma + 1))] : bySpaces(wordsOf(name))
  const first =
    particles === 'count' ? 0 : family.findIndex((word, i) => !isParticle(word) || i === family.length - 1)
  return { surname: family.slice(first).join(' '), given: [...given, ...family.slice(0, first)].join(' ') }
}

function bySpaces(words: string[]): [string[], string[]] {
  const last = words.at(-1)?.toLowerCase().replace(/\.$/, '') ?? ''
  const end = words.length > 2 && AFTER.has(last) ? words.length - 1 : words.length
  let at = Math.max(0, end - 1)
  while (at > 1 && isParticle(words[at - 1] ?? '')) at -= 1
  return [words.slice(at, end), [...words.slice(0, at), ...words.slice(end)]]
}

function isParticle(word: string): boolean {
  return word === word.toLowerCase() && PARTICLE_WORDS.has(word.replace(/[’']$/, ''))
}

function wordsOf(text: string): string[] {
  return text.trim().split(/\s+/).filter(Boolean)
}

/**
 * Orders things by the names they bear, as class lists do: by surname, then by given name, both without regard to
 * case and accents (but for letters of their own in the language); those come last.
 */
export function nameOrder<T>(order: NameOrder, nameOf: (item: T) => string): (a: T, b: T) => number {
  const { language, particles } = order
  const [letters, all] = [collator(language, 'base'), collator(language, 'variant')]
  const known = new Map<string, Parted>()
  const read = (name: string): Parted => {
    const found = known.get(name)
    if (found) return found
    const made = parted(name, particles)
    known.set(name, made)
    return made
  }
  return (one, other) => {
    const [a, b] = [nameOf(one), nameOf(other)]
    const [x, y] = [read(a), read(b)]
    return (
      letters.compare(x.surname, y.surname) ||
      letters.compare(x.given, y.given) ||
      all.compare(x.surname, y.surname) ||
      all.compare(x.given, y.given) ||
      (a < b ? -1 : a > b ? 1 : 0)
    )
  }
}

/** Orders two names as class lists do, in English with particles passed over. */
export const bySurname = nameOrder<string>(DEFAULT_ORDER, (name) => name)

function collator(language: string, sensitivity: 'base' | 'variant'): Intl.Collator {
  return new Intl.Collator(isLanguage(language) ? language : DEFAULT_ORDER.language, { sensitivity })
}
