/** What was written of several fields, and what they were when each was taken up. */
export interface Over<Fields> {
  base: Fields
  draft: Fields
}

/**
 * Lays what was written over what is there by now, field by field: what the writer did not touch follows what is there;
 * what both changed stays as it was written until that is decided.
 * @returns with `met`, the fields that both changed
 */
export function rebase<Fields extends object>(
  { base, draft }: Over<Fields>,
  now: Fields,
): { over: Over<Fields>; met: (keyof Fields & string)[] } {
  const over = { base: { ...base }, draft: { ...draft } }
  const met: (keyof Fields & string)[] = []
  for (const key of Object.keys(now) as (keyof Fields & string)[]) {
    if (same(now[key], base[key])) continue
    const own = !same(draft[key], base[key]) && !same(draft[key], now[key])
    if (own) met.push(key)
    else {
      over.base[key] = now[key]
      over.draft[key] = now[key]
    }
  }
  return { over, met }
}

/** The fields in which two bodies differ: what is sent of the second, and what it was made from. */
export function changesBetween<Body extends object>(
  before: Body,
  after: Body,
): { changes: Partial<Body>; was: Partial<Body> } {
  const keys = (Object.keys(after) as (keyof Body)[]).filter((key) => !same(before[key], after[key]))
  const pick = (body: Body) => Object.fromEntries(keys.map((key) => [key, body[key]])) as Partial<Body>
  return { changes: pick(after), was: pick(before) }
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b)
