import { drawLots } from './lot.ts'
import type { ConvenerRule } from './rules.ts'

/** A member of a group, by any key. */
export interface Member<Key> {
  key: Key
  /** When the seat was taken; texts compare as times. */
  takenAt: string
}

/**
 * The member who answers for a group, or null. Whoever is named does, as long as they sit there; else the rule decides.
 * By lot, everybody's place in the draw follows from the lot number and the group's number alone, so the draw can
 * be repeated and does not change when somebody else joins later and draws worse.
 * @param members in the order they sat down
 * @param order a number per member that does not change, which the lot is drawn from
 */
export function convenerOf<Key>(
  rule: ConvenerRule,
  members: readonly Member<Key>[],
  options: { named: Key | null; lotNumber: number; group: number; order: (key: Key) => number },
): Key | null {
  if (rule === 'none') return null
  const named = members.find(({ key }) => key === options.named)
  if (named) return named.key
  switch (rule) {
    case 'named':
      return null
    case 'first':
      return firstOf(members, ({ takenAt }) => takenAt)
    case 'lot': {
      const ticket = (key: Key) =>
        drawLots(
          options.lotNumber ^ Math.imul(options.group, 7919) ^ Math.imul(options.order(key), 104_729),
        ).next()
      return firstOf(members, ({ key }) => ticket(key))
    }
  }
}

function firstOf<Key, Value extends string | number>(
  members: readonly Member<Key>[],
  by: (member: Member<Key>) => Value,
): Key | null {
  let first: { key: Key; value: Value } | null = null
  for (const member of members) {
    const value = by(member)
    if (first === null || value < first.value) first = { key: member.key, value }
  }
  return first?.key ?? null
}
