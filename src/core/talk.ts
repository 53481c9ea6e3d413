/** Somebody who can be named in a post. */
export interface Mentionable<Key> {
  key: Key
  name: string
}

/**
 * Whom a text names by `@` and their full name. Of two names that begin alike the longer is meant; case makes no
 * difference; an address of mail names nobody.
 */
export function mentionsIn<Key>(text: string, people: readonly Mentionable<Key>[]): Key[] {
  const byLength = people.toSorted((a, b) => b.name.length - a.name.length)
  const found = new Set<Key>()
  const lower = text.toLowerCase()
  for (let at = lower.indexOf('@'); at >= 0; at = lower.indexOf('@', at + 1)) {
    if (at > 0 && /[\p{L}\p{N}]/u.test(lower[at - 1] ?? '')) continue
    const after = lower.slice(at + 1)
    const meant = byLength.find(
      ({ name }) => after.startsWith(name.toLowerCase()) && !/^[\p{L}\p{N}]/u.test(after.slice(name.length)),
    )
    if (meant) found.add(meant.key)
  }
  return [...found]
}

/** What is being typed after the last `@` of a text, up to where one types; null when that is no name. */
export function nameBegun(text: string): string | null {
  const at = text.lastIndexOf('@')
  if (at < 0 || (at > 0 && /[\p{L}\p{N}]/u.test(text[at - 1] ?? ''))) return null
  const begun = text.slice(at + 1)
  return begun.length <= 40 && !/[\n@]/.test(begun) ? begun : null
}
