import type { RunView } from '../../../../contract/seats.ts'
import type { WishesView } from '../../../../contract/wishes.ts'
import { grouped } from '../../../../core/grouped.ts'

/** How much a group is wanted, by lists that count. */
export interface Wanted {
  /** Who wants it first, by code. */
  first: string[]
  second: number
  later: number
}

/**
 * How much each group is wanted: by those of its section, or by everybody where it is for all of them. A topic of which
 * several groups are open to somebody is wanted in each of them.
 */
export function wantedIn(
  { groups, people, rules }: Pick<RunView, 'groups' | 'people' | 'rules'>,
  lists: WishesView['lists'],
): Map<string, Wanted> {
  const sectionOf = new Map(people.map(({ code, section }) => [code, section]))
  const ofTopic = grouped(groups, ({ topic }) => topic)
  const wanted = new Map(
    groups.map(({ code }): [string, Wanted] => [code, { first: [], second: 0, later: 0 }]),
  )
  for (const { person, ranks, counts } of lists) {
    if (!counts || !sectionOf.has(person)) continue
    ranks.forEach((topics, i) => {
      for (const topic of topics)
        for (const { code, section } of ofTopic.get(topic) ?? []) {
          const open = rules.offers === 'course' || section === null || section === sectionOf.get(person)
          const own = wanted.get(code)
          if (!open || !own) continue
          if (i === 0) own.first.push(person)
          else if (i === 1) own.second += 1
          else own.later += 1
        }
    })
  }
  return wanted
}

/** Who has no list that counts, in the order of the people. */
export function notRanked({ people }: Pick<RunView, 'people'>, lists: WishesView['lists']): string[] {
  const ranked = new Set(lists.filter(({ counts }) => counts).map(({ person }) => person))
  return people.filter(({ code }) => !ranked.has(code)).map(({ code }) => code)
}
