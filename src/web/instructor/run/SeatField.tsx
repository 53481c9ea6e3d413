import { useEffect, useMemo, useRef } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { useSameEach } from '../../data/useSame.ts'
import { columnsOf } from '../columns.ts'
import { arranged, type Look } from './arranged.ts'
import { SCROLLS } from './drops.ts'
import { GroupCell, type Named, type Shown } from './GroupCell.tsx'
import type { Wanted } from './wished/wanted.ts'

/** The seat field: a row per topic, a column per section and for groups of all sections, each cell a group. */
export function SeatField({
  view,
  taken,
  shown,
  look,
  picked,
  pointedTopic,
  pointedPerson,
  mayDrag = NONE,
  wanted,
  onPick,
}: {
  view: RunView
  taken: ReadonlyMap<string, number>
  shown: Shown
  look: Look
  picked: string | null
  pointedTopic: string | null
  pointedPerson: string | null
  /** Whether those who sit in a group can be dragged elsewhere. */
  mayDrag?: (group: RunView['groups'][number]) => boolean
  /** How much each group is wanted, where topics are ranked. */
  wanted?: ReadonlyMap<string, Wanted>
  onPick: (group: string | null) => void
}) {
  const columns = columnsOf(view.sections, view.groups)
  const sameGroups = useSameEach(
    useMemo(() => new Map(view.groups.map((group) => [group.code, group])), [view.groups]),
  )
  const groupAt = useMemo(
    () => new Map([...sameGroups.values()].map((group) => [`${group.topic} ${group.section}`, group])),
    [sameGroups],
  )
  const namesIn = useNamesIn(view)
  const { topics, sought } = useMemo(() => arranged(view, taken, look), [view, taken, look])
  const row = useRef<HTMLTableRowElement>(null)
  useEffect(() => {
    if (pointedTopic) row.current?.scrollIntoView({ block: 'center' })
  }, [pointedTopic])
  return (
    <div {...{ [SCROLLS]: '' }} className="relative min-h-0 overflow-auto bg-surface">
      <table
        className="w-full table-fixed border-collapse"
        style={{ minWidth: `${15 + columns.length * 11}rem` }}
      >
        <caption className="sr-only">Groups by topic{columns.length > 1 ? ' and section' : ''}</caption>
        <thead className="sticky top-0 z-10 bg-surface">
          <tr className="border-b border-line text-left text-soft">
            <th scope="col" className="sticky left-0 w-[30%] min-w-60 bg-surface px-3 py-1.5 font-semibold">
              Topic
            </th>
            {columns.map((section) => (
              <th
                key={section?.code ?? ''}
                scope="col"
                className="figures border-l tear px-3 py-1.5 font-semibold"
              >
                {section ? `${section.name} · ${section.students}` : `Everybody · ${view.people.length}`}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {topics.map((topic) => (
            <tr
              key={topic.code}
              ref={topic.code === pointedTopic ? row : undefined}
              className={`border-b border-line ${topic.code === pointedTopic ? 'bg-seat-soft' : ''}`}
            >
              <th
                scope="row"
                className={`sticky left-0 truncate px-3 py-1 text-left font-semibold ${topic.code === pointedTopic ? 'bg-seat-soft' : 'bg-surface'}`}
              >
                {topic.title}
              </th>
              {columns.map((section) => {
                const group = groupAt.get(`${topic.code} ${section?.code ?? null}`)
                return (
                  <td key={section?.code ?? ''} className="border-l tear p-0">
                    {group && (
                      <GroupCell
                        label={`${topic.title}${section ? `, ${section.name}` : ''}`}
                        group={group}
                        taken={taken.get(group.code) ?? 0}
                        names={namesIn.get(group.code) ?? NOBODY}
                        shown={shown}
                        yours={group.tutors.includes(view.you)}
                        picked={group.code === picked}
                        dimmed={sought !== null && !sought.has(group.code)}
                        pointedPerson={
                          namesIn.get(group.code)?.some(({ code }) => code === pointedPerson)
                            ? pointedPerson
                            : null
                        }
                        mayDrag={mayDrag(group)}
                        {...wantedOf(wanted, group.code)}
                        onPick={onPick}
                      />
                    )}
                  </td>
                )
              })}
            </tr>
          ))}
        </tbody>
      </table>
      {topics.length === 0 && (
        <p className="p-6 text-center text-soft">No group is like that. Show all again.</p>
      )}
    </div>
  )
}

const NOBODY: readonly Named[] = []
const NONE = () => false

function useNamesIn(view: RunView): ReadonlyMap<string, Named[]> {
  const named = useMemo(() => {
    const names = new Map([...view.people, ...view.away].map(({ code, name }) => [code, name]))
    const byGroup = new Map<string, Named[]>()
    for (const { group, person } of view.seats) {
      const list = byGroup.get(group) ?? []
      list.push({ code: person, name: names.get(person) ?? '' })
      byGroup.set(group, list)
    }
    return byGroup
  }, [view.people, view.away, view.seats])
  // What says the same stays the same, so that only the cells that a change touches are drawn anew.
  return useSameEach(named)
}

/** How much a group is wanted, as its cell takes it. */
function wantedOf(wanted: ReadonlyMap<string, Wanted> | undefined, group: string): { wanted?: Wanted } {
  const own = wanted?.get(group)
  return own ? { wanted: own } : {}
}
