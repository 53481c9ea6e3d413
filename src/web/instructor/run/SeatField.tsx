import { ToggleGroup } from 'radix-ui'
import { useEffect, useMemo, useRef } from 'react'
import type { RunView } from '../../../contract/seats.ts'
import { NO_LIMIT, pastLimit } from '../../../core/limit.ts'
import { initials } from '../../../core/names.ts'
import { PipRow } from '../../kit/Pip.tsx'

/** How the people of a group are shown in the field. */
export type Shown = 'pips' | 'initials' | 'names'

const CHOICES: { value: Shown; label: string }[] = [
  { value: 'pips', label: 'Pips' },
  { value: 'initials', label: 'Initials' },
  { value: 'names', label: 'Names' },
]

/** The seat field: a row per topic, a column per section, each cell a group. */
export function SeatField({
  view,
  taken,
  shown,
  onShown,
  picked,
  pointedTopic,
  pointedPerson,
  onPick,
}: {
  view: RunView
  taken: ReadonlyMap<string, number>
  shown: Shown
  onShown: (shown: Shown) => void
  picked: string | null
  pointedTopic: string | null
  pointedPerson: string | null
  onPick: (group: string | null) => void
}) {
  const columns = view.sections.length > 0 ? view.sections : [null]
  const groupAt = useMemo(
    () => new Map(view.groups.map((group) => [`${group.topic} ${group.section}`, group])),
    [view.groups],
  )
  const namesIn = useNamesIn(view)
  // Tutors see the topics first in which they look after a group.
  const own = useMemo(
    () => new Set(view.groups.filter(({ tutors }) => tutors.includes(view.you)).map(({ topic }) => topic)),
    [view.groups, view.you],
  )
  const topics = useMemo(
    () => view.topics.toSorted((a, b) => Number(own.has(b.code)) - Number(own.has(a.code))),
    [view.topics, own],
  )
  const row = useRef<HTMLTableRowElement>(null)
  useEffect(() => {
    if (pointedTopic) row.current?.scrollIntoView({ block: 'center' })
  }, [pointedTopic])
  return (
    <div className="relative min-h-0 overflow-auto bg-surface">
      <table
        className="w-full table-fixed border-collapse"
        style={{ minWidth: `${15 + columns.length * 11}rem` }}
      >
        <caption className="sr-only">Groups by topic{view.sections.length > 0 ? ' and section' : ''}</caption>
        <thead className="sticky top-0 z-10 bg-surface">
          <tr className="border-b border-line text-left text-soft">
            <th scope="col" className="sticky left-0 w-[30%] min-w-60 bg-surface px-3 py-1.5 font-semibold">
              <span className="flex items-center justify-between gap-3">
                Topic
                <ToggleGroup.Root
                  type="single"
                  aria-label="Show people as"
                  value={shown}
                  onValueChange={(value) => value && onShown(value as Shown)}
                  className="flex rounded-field border border-line-strong p-px text-[0.8125rem]"
                >
                  {CHOICES.map(({ value, label }) => (
                    <ToggleGroup.Item
                      key={value}
                      value={value}
                      className="min-h-6 rounded-[5px] px-2 data-[state=on]:bg-seat-soft data-[state=on]:text-seat"
                    >
                      {label}
                    </ToggleGroup.Item>
                  ))}
                </ToggleGroup.Root>
              </span>
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
                        names={namesIn.get(group.code) ?? []}
                        shown={shown}
                        yours={group.tutors.includes(view.you)}
                        picked={group.code === picked}
                        pointedPerson={pointedPerson}
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
    </div>
  )
}

interface Named {
  code: string
  name: string
}

function useNamesIn(view: RunView): ReadonlyMap<string, Named[]> {
  return useMemo(() => {
    const names = new Map([...view.people, ...view.away].map(({ code, name }) => [code, name]))
    const byGroup = new Map<string, Named[]>()
    for (const { group, person } of view.seats) {
      const list = byGroup.get(group) ?? []
      list.push({ code: person, name: names.get(person) ?? '' })
      byGroup.set(group, list)
    }
    return byGroup
  }, [view.people, view.away, view.seats])
}

function GroupCell({
  label,
  group,
  taken,
  names,
  shown,
  yours,
  picked,
  pointedPerson,
  onPick,
}: {
  label: string
  group: RunView['groups'][number]
  taken: number
  names: readonly Named[]
  shown: Shown
  /** Whether the reader looks after it. */
  yours: boolean
  picked: boolean
  pointedPerson: string | null
  onPick: (group: string | null) => void
}) {
  const { seats, floor, held, line } = group
  const low = taken < floor
  const past = pastLimit(seats, taken)
  const full = seats !== NO_LIMIT && taken >= seats
  const of = seats === NO_LIMIT ? `${taken}` : `${taken}/${seats}`
  const standing = past > 0 ? `${of} +${past}` : `${of}${full ? ' full' : ''}`
  const said = [
    past > 0 ? `${past} past the limit` : full ? 'full' : '',
    low && !full ? `under the floor of ${floor}` : '',
    held > 0 ? `${held} kept free` : '',
    line.length > 0 ? `${line.length} in line` : '',
    yours ? 'yours to look after' : '',
  ]
    .filter(Boolean)
    .join(', ')
  return (
    <button
      type="button"
      aria-pressed={picked}
      onClick={() => onPick(picked ? null : group.code)}
      className={`flex min-h-[2.0625rem] w-full items-center justify-between gap-3 px-3 text-left hover:bg-canvas ${
        picked ? 'bg-seat-soft outline-2 -outline-offset-2 outline-seat hover:bg-seat-soft' : ''
      }`}
    >
      <span className="sr-only">
        {label}: {seats === NO_LIMIT ? `${taken} seats taken, no limit` : `${taken} of ${seats} seats taken`}
        {said && `, ${said}`}
        {shown !== 'pips' && names.length > 0 && `, by ${names.map(({ name }) => name).join(', ')}`}
      </span>
      {shown === 'pips' ? (
        <PipRow taken={taken} seats={seats} held={held} />
      ) : (
        <span
          aria-hidden="true"
          className={`flex flex-wrap gap-x-1.5 gap-y-0.5 py-1 ${shown === 'names' ? 'text-sm' : 'text-xs font-semibold'}`}
        >
          {names.map(({ code, name }) => (
            <span
              key={code}
              className={`${shown === 'initials' ? 'min-w-6 rounded-pip bg-seat px-1 text-center text-on-seat' : ''} ${
                code === pointedPerson ? 'outline-2 outline-seat' : ''
              }`}
            >
              {shown === 'initials' ? initials(name) : name}
            </span>
          ))}
        </span>
      )}
      <span aria-hidden="true" className="figures shrink-0 text-soft">
        {yours && (
          <span className="mr-1.5 rounded bg-seat-soft px-1 text-[0.8125rem] font-semibold text-seat">
            yours
          </span>
        )}
        {standing}
        {line.length > 0 && <span className="ml-1.5">+{line.length} in line</span>}
        {low && <span className="ml-1 text-[0.625rem] text-ember">▼</span>}
      </span>
    </button>
  )
}
